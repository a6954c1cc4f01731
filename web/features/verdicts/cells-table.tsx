'use client';

import type { CellLine } from '@dusk-tally/lab/verdicts';
import { useVirtualizer } from '@tanstack/react-virtual';
import { CLAIM_WORDS } from '@dusk-tally/core/arrivals';
import { LIFE_ORDER, LIFE_STATES } from '@dusk-tally/core/stock';
import { formatNumber } from '@dusk-tally/core/units';
import Link from 'next/link';
import { type ReactNode, useMemo, useRef } from 'react';
import { FigureText } from '@/kit/figure-text';
import { TrailLink } from '@/kit/trail-link';
import { VerdictWord } from '@/kit/verdict-word';
import { useAddress } from '@/lib/use-address';
import { type PackedLines, unpackLines } from './packed-lines';
import { verdictOf } from './verdict-of';

type SortKey = 'number' | 'capacityAh' | 'acMohm' | 'ocvV' | 'stateOfHealth' | 'grade';

interface Column {
  key: SortKey | 'verdict' | 'why';
  head: string;
  width: string;
  num?: boolean;
  cell: (line: CellLine) => ReactNode;
}

const COLUMNS: Column[] = [
  {
    key: 'number',
    head: 'Cell',
    width: '10.3rem',
    cell: (line) => (
      <Link href={`/cells/${line.number}`} className="font-medium hover:underline">
        {line.number}
        {line.label && (
          <span className="block truncate text-[0.72rem] font-normal text-quiet" title={line.label}>
            {' '}
            {shortMark(line.label)}{' '}
          </span>
        )}
      </Link>
    ),
  },
  {
    key: 'capacityAh',
    head: 'Capacity / Ah',
    width: '10.3rem',
    num: true,
    cell: (line) => (
      <TrailLink figureId={line.capacityFigureId}>
        <FigureText value={line.capacityAh} U={line.capacityU} bound={line.bound} />
        {line.corrections.length > 0 && (
          <span className="block text-[0.72rem] leading-tight text-quiet tabular-nums">
            {' '}
            measured {formatNumber(line.capacityRawAh!, 3)}
          </span>
        )}
      </TrailLink>
    ),
  },
  {
    key: 'verdict',
    head: 'Capacity claim',
    width: '9.6rem',
    cell: (line) => (
      <>
        <VerdictWord verdict={verdictOf(line)} />
        {line.against.length > 0 && (
          <span className="block truncate text-[0.72rem] leading-tight text-missed">
            {`against: ${line.against.map((kind) => CLAIM_WORDS[kind].toLowerCase()).join(', ')}`}
          </span>
        )}
      </>
    ),
  },
  {
    key: 'acMohm',
    head: 'AC / mΩ',
    width: '9.2rem',
    num: true,
    cell: (line) => (
      <TrailLink figureId={line.acFigureId}>
        <FigureText value={line.acMohm} U={line.acU} bound={line.acBound} />
      </TrailLink>
    ),
  },
  {
    key: 'ocvV',
    head: 'OCV / V',
    width: '4.6rem',
    num: true,
    cell: (line) => <FigureText value={line.ocvV} U={null} />,
  },
  {
    key: 'stateOfHealth',
    head: 'SoH / %',
    width: '4.6rem',
    num: true,
    cell: (line) => (
      <FigureText
        value={line.stateOfHealth === null ? null : 100 * line.stateOfHealth}
        U={null}
        decimals={1}
      />
    ),
  },
  {
    key: 'grade',
    head: 'Grade',
    width: '5rem',
    cell: (line) => line.grade ?? <span className="text-quiet">waiting</span>,
  },
  {
    key: 'why',
    head: 'Why not better',
    width: 'minmax(11rem,1fr)',
    cell: (line) => (
      <span className="line-clamp-2 text-[0.82rem] leading-snug text-quiet">
        {line.held
          ? `Held: ${line.held}`
          : line.reasons.join(' ') ||
            (line.waitingFor.length > 0 ? `Waiting for ${line.waitingFor.join(', ')}.` : '')}
      </span>
    ),
  },
];
const GRID = { gridTemplateColumns: COLUMNS.map((column) => column.width).join(' ') };
/** The end of a long mark tells cells apart: maker and type stand at its start. */
const shortMark = (label: string): string => (label.length > 18 ? `…${label.slice(-14)}` : label);

const FILTERS = {
  all: 'All',
  notMet: 'Misses',
  tooClose: 'Too close',
  met: 'Meets',
  held: 'Held',
  notComparable: 'Not comparable',
  open: 'Not tested',
} as const;

const compare = (key: SortKey) => (a: CellLine, b: CellLine) => {
  const [x, y] = [a[key], b[key]];
  if (x === null || y === null) return x === y ? 0 : x === null ? 1 : -1;
  return typeof x === 'string'
    ? x.localeCompare(String(y), undefined, { numeric: true })
    : x - Number(y);
};

/** Chooses cells by where they are in their life; states no cell is in are not offered. */
function LifeFilter({
  lines,
  chosen,
  onChoose,
}: {
  lines: readonly CellLine[];
  chosen: string | null;
  onChoose: (state: string | null) => void;
}) {
  const counts = useMemo(() => {
    const count = new Map<string, number>();
    for (const { life } of lines) count.set(life, (count.get(life) ?? 0) + 1);
    return count;
  }, [lines]);
  return (
    <label className="ml-auto">
      <span className="sr-only">Where in its life</span>
      <select
        className="field"
        value={chosen ?? ''}
        onChange={(event) => onChoose(event.target.value || null)}
      >
        <option value="">anywhere in its life</option>
        {LIFE_ORDER.filter((state) => counts.has(state) || state === chosen).map((state) => (
          <option key={state} value={state}>
            {LIFE_STATES[state]} ({counts.get(state) ?? 0})
          </option>
        ))}
      </select>
    </label>
  );
}

/** Every cell of a lot; sorting and filter stand in the address. */
export function CellsTable({ packed }: { packed: PackedLines }) {
  const lines = useMemo(() => unpackLines(packed), [packed]);
  const { query, set } = useAddress();
  const sort = (query.get('sort') ?? 'number') as SortKey;
  const falling = query.get('falling') === '1';
  const filter = (query.get('show') ?? 'all') as keyof typeof FILTERS;
  const scroller = useRef<HTMLDivElement>(null);
  const life = query.get('life');
  const shown = useMemo(() => {
    const kept = lines.filter(
      (line) =>
        (filter === 'all' || verdictOf(line) === filter) && (life === null || line.life === life),
    );
    const sorted = [...kept].sort(compare(sort));
    return falling ? sorted.reverse() : sorted;
  }, [lines, filter, life, sort, falling]);
  // The compiler does not know the virtualizer; its functions are read afresh at each render.
  const virtual = useVirtualizer({
    count: shown.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => 45,
    overscan: 12,
  });
  return (
    <>
      <div className="mb-3 flex flex-wrap items-center gap-1" role="group" aria-label="Show">
        {(Object.keys(FILTERS) as (keyof typeof FILTERS)[]).map((key) => {
          const count =
            key === 'all' ? lines.length : lines.filter((line) => verdictOf(line) === key).length;
          return (
            <button
              key={key}
              type="button"
              aria-pressed={filter === key}
              onClick={() => set({ show: key === 'all' ? null : key })}
              className={`min-h-8 rounded-sm border px-2.5 ${filter === key ? 'border-ember bg-ember-wash' : 'border-rule bg-sheet text-quiet'}`}
            >
              {FILTERS[key]} <span className="tabular-nums">{count}</span>
            </button>
          );
        })}
        <LifeFilter lines={lines} chosen={life} onChoose={(state) => set({ life: state })} />
      </div>
      <div
        ref={scroller}
        className="panel max-h-[calc(100dvh-9rem)] min-h-40 overflow-auto"
        role="table"
        aria-label="Cells of the lot"
        aria-rowcount={shown.length + 1}
        tabIndex={0}
      >
        <div
          role="row"
          className="sticky top-0 z-10 grid min-w-[62rem] border-b border-strong-rule bg-sheet text-[0.82rem] text-quiet"
          style={GRID}
        >
          {COLUMNS.map((column) => {
            const sortable = column.key !== 'verdict' && column.key !== 'why';
            const here = sortable && sort === column.key;
            return (
              <span
                key={column.key}
                role="columnheader"
                aria-sort={here ? (falling ? 'descending' : 'ascending') : undefined}
                className={`px-2 py-1.5 font-semibold ${column.num ? 'text-right' : ''}`}
              >
                {sortable ? (
                  <button
                    type="button"
                    onClick={() =>
                      set({ sort: column.key, falling: here && !falling ? '1' : null })
                    }
                    className="hover:text-ink"
                  >
                    {column.head}
                    {here ? (falling ? ' ↓' : ' ↑') : ''}
                  </button>
                ) : (
                  column.head
                )}
              </span>
            );
          })}
        </div>
        <div
          style={{ height: virtual.getTotalSize() }}
          className="relative min-w-[62rem]"
          role="rowgroup"
        >
          {virtual.getVirtualItems().map((row) => {
            const line = shown[row.index]!;
            return (
              <div
                key={line.id}
                role="row"
                aria-rowindex={row.index + 2}
                className="absolute inset-x-0 grid h-[45px] items-center border-b border-rule hover:bg-wash"
                style={{ ...GRID, transform: `translateY(${row.start}px)` }}
              >
                {COLUMNS.map((column) => (
                  <span
                    key={column.key}
                    role="cell"
                    className={`min-w-0 px-2 ${column.num ? 'text-right' : ''}`}
                  >
                    {column.cell(line)}
                  </span>
                ))}
              </div>
            );
          })}
        </div>
        {shown.length === 0 && (
          <p className="p-4 text-quiet">No cell of this lot is in this group.</p>
        )}
      </div>
    </>
  );
}
