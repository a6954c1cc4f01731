'use client';

import type { CodesView } from '@dusk-tally/lab/arrivals';
import { useVirtualizer } from '@tanstack/react-virtual';
import { Check, TriangleAlert } from 'lucide-react';
import { Link } from '@/kit/link';
import { useRef } from 'react';
import { Button } from '@/kit/button';

export function CodeList({
  view,
  target,
  onTarget,
}: {
  view: CodesView;
  target: number | null;
  onTarget: (id: number | null) => void;
}) {
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: view.cells.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => 46,
    overscan: 12,
  });
  return (
    <div
      ref={scroller}
      className="panel max-h-[26rem] overflow-auto"
      tabIndex={0}
      role="region"
      aria-label="Codes by cell"
    >
      <div className="relative" style={{ height: virtual.getTotalSize() }}>
        {virtual.getVirtualItems().map(({ index, start }) => {
          const cell = view.cells[index]!;
          return (
            <div
              key={cell.id}
              className={`absolute inset-x-0 flex h-[46px] items-center gap-3 border-b border-rule px-3 ${target === cell.id ? 'bg-ember-wash' : ''}`}
              style={{ transform: `translateY(${start}px)` }}
            >
              <Link
                href={`/cells/${cell.number}`}
                className="w-20 shrink-0 whitespace-nowrap font-medium hover:underline"
              >
                {cell.number}
              </Link>
              {cell.code ? (
                <span className="min-w-0">
                  <span className="block truncate tabular-nums">{cell.code}</span>
                  <span
                    className={`block truncate text-[0.78rem] ${cell.message ? 'text-doubt' : 'text-quiet'}`}
                    title={cell.message ?? cell.words ?? ''}
                  >
                    {cell.message ?? `${cell.producedOn ?? ''} ${cell.words ?? ''}`}
                  </span>
                </span>
              ) : (
                <Button look="bare" onClick={() => onTarget(cell.id)}>
                  {target === cell.id ? 'the next scan goes here' : 'no code; scan it next'}
                </Button>
              )}
            </div>
          );
        })}
      </div>
    </div>
  );
}

/** What the codes of the lot tell. */
export function CodeFacts({ view }: { view: CodesView }) {
  const { summary, arrivedOn } = view;
  const most = Math.max(1, ...summary.dates.map((date) => date.count));
  return (
    <section className="panel self-start p-4" aria-label="What the codes tell">
      <h2 className="font-semibold">What the codes tell</h2>
      {summary.coded === 0 ? (
        <p className="mt-1 text-quiet">
          Nothing yet. Age, mixed dates, copied labels and contradictions with the claim show here
          as codes come in.
        </p>
      ) : (
        <>
          <ul className="mt-2 space-y-2">
            {summary.findings.map((finding) => (
              <li key={finding.kind} className="flex gap-2" data-finding={finding.kind}>
                <TriangleAlert
                  size={16}
                  className={`mt-0.5 shrink-0 ${finding.kind === 'missing' ? 'text-quiet' : 'text-missed'}`}
                  aria-hidden
                />
                <span>
                  {finding.sentence}
                  <span className="block text-[0.82rem] text-quiet">
                    {finding.cells.slice(0, 8).join(', ')}
                    {finding.cells.length > 8 && ` and ${finding.cells.length - 8} more`}
                  </span>
                </span>
              </li>
            ))}
            {summary.findings.length === 0 && (
              <li className="flex gap-2">
                <Check size={16} className="mt-0.5 text-met" aria-hidden />
                Nothing contradicts the claim.
              </li>
            )}
          </ul>
          <dl className="mt-3 grid grid-cols-[auto_1fr] gap-x-4 gap-y-1">
            <dt className="text-quiet">Read</dt>
            <dd>
              {summary.read} of {summary.coded} codes
            </dd>
            <dt className="text-quiet">Age on arrival</dt>
            <dd>
              {summary.ageDays
                ? summary.ageDays.least === summary.ageDays.most
                  ? `${summary.ageDays.least} days`
                  : `${summary.ageDays.least} to ${summary.ageDays.most} days`
                : arrivedOn
                  ? 'no dates in the codes'
                  : 'no arrival date recorded'}
            </dd>
            <dt className="text-quiet">Makers</dt>
            <dd>
              {summary.makers
                .map((maker) => `${maker.name ?? maker.maker} ${maker.count}`)
                .join(', ') || '–'}
            </dd>
          </dl>
          {summary.dates.length > 0 && (
            <figure className="mt-3">
              <figcaption className="text-quiet">Production dates</figcaption>
              <ul className="mt-1 space-y-1">
                {summary.dates.slice(0, 14).map(({ day, count }) => (
                  <li key={day} className="flex items-center gap-2 tabular-nums">
                    <span className="w-28 whitespace-nowrap">{day}</span>
                    <span
                      className="h-3 rounded-[1px] bg-stroke"
                      style={{ width: `${(100 * count) / most / 1.8}%` }}
                      aria-hidden
                    />
                    <span>{count}</span>
                  </li>
                ))}
                {summary.dates.length > 14 && (
                  <li className="text-quiet">and {summary.dates.length - 14} more dates</li>
                )}
              </ul>
            </figure>
          )}
        </>
      )}
    </section>
  );
}
