'use client';

import { medianBand, type OddCurve } from '@dusk-tally/core/evidence';
import { useMemo, useRef, useState } from 'react';
import { Button } from '@/kit/button';
import { saveFile, saveSvg } from '@/kit/export-picture';
import { Empty, Problem } from '@/kit/page';
import { useAddress } from '@/lib/use-address';
import {
  type CurveKind,
  curveTable,
  isDerivative,
  KIND_WORDS,
  KINDS,
  pictureOf,
  pictureTable,
} from './curve-kinds';
import { CurvesChart } from './curves-chart';
import { OddCurveList } from './odd-curve-list';
import { parseSubset } from '@/kit/subset';
import { useCurves, useDerivatives } from '@/lib/use-curves';

/** The lot’s curves with what to show kept in the address. */
export function CurvesView({
  lotId,
  code,
  odd,
  claimAh,
  cutoffV,
}: {
  lotId: number;
  code: string;
  odd: OddCurve[];
  claimAh: number | null;
  cutoffV: number;
}) {
  const { data, error } = useCurves(lotId);
  const { query, set } = useAddress();
  const asked = query.get('axis') as CurveKind | null;
  const kind = asked && KINDS.includes(asked) ? asked : 'charge';
  const derivatives = useDerivatives(lotId, isDerivative(kind));
  const only = query.get('only') === '1';
  const withBand = query.get('band') !== '0';
  const frame = useRef<HTMLDivElement>(null);
  const [text, setText] = useState(query.get('cells') ?? '');
  const numbers = useMemo(() => data?.map((entry) => entry.number) ?? [], [data]);
  const chosen = useMemo(() => parseSubset(text, numbers), [text, numbers]);
  if (error) return <Problem>{error.message}</Problem>;
  if (!data)
    return (
      <p className="text-quiet" role="status">
        Fetching the curves …
      </p>
    );
  if (data.length === 0)
    return (
      <div className="space-y-4">
        <Empty title="No discharge yet">
          Bring in the testers’ logs under Logs; each discharge appears here.
        </Empty>
        {odd.length > 0 && <OddCurveList odd={odd} onPick={null} />}
      </div>
    );
  const pick = (number: string) => {
    const next = text.split(/,\s*/).filter(Boolean).concat(number).join(', ');
    setText(next);
    set({ cells: next });
  };
  const shown = only && chosen.size > 0 ? data.filter((entry) => chosen.has(entry.number)) : data;
  const band =
    withBand && kind === 'charge' && data.length >= 5
      ? medianBand(data.map(({ curve }) => ({ ah: curve.chargeAh, voltageV: curve.voltageV })))
      : null;
  const picture = pictureOf(kind, shown, derivatives.data ?? [], { claimAh, cutoffV });
  const csv = () =>
    saveFile(
      `${code} curves.csv`,
      'text/csv',
      isDerivative(kind) ? pictureTable(picture) : curveTable(shown),
    );
  return (
    <div className="space-y-4">
      <div className="panel p-4">
        <div className="mb-2 flex flex-wrap items-center gap-4">
          <div role="group" aria-label="What is drawn" className="flex">
            {KINDS.map((one) => (
              <button
                key={one}
                type="button"
                aria-pressed={kind === one}
                onClick={() => set({ axis: one === 'charge' ? null : one })}
                className={`min-h-9 border px-3 first:rounded-l-sm last:rounded-r-sm ${kind === one ? 'border-ember bg-ember-wash' : 'border-rule text-quiet'}`}
              >
                {KIND_WORDS[one]}
              </button>
            ))}
          </div>
          <label className="flex items-center gap-2">
            <span className="text-quiet">Cells</span>
            <input
              className="field w-56"
              placeholder="such as 3, 17, 20-30"
              value={text}
              onChange={(event) => setText(event.target.value)}
              onBlur={() => set({ cells: text })}
            />
          </label>
          <label className="flex items-center gap-2">
            <input
              type="checkbox"
              checked={only}
              onChange={(event) => set({ only: event.target.checked ? '1' : null })}
              className="size-4 accent-(--ember)"
            />
            only these
          </label>
          {kind === 'charge' && data.length >= 5 && (
            <label className="flex items-center gap-2">
              <input
                type="checkbox"
                checked={withBand}
                onChange={(event) => set({ band: event.target.checked ? null : '0' })}
                className="size-4 accent-(--ember)"
              />
              median band
            </label>
          )}
          <p className="ml-auto text-quiet" role="status">
            {picture.drawn.length} of {data.length} curves
            {chosen.size > 0 ? `, ${chosen.size} picked out` : ''}
          </p>
        </div>
        <div ref={frame}>
          {derivatives.error && <Problem>{derivatives.error.message}</Problem>}
          <CurvesChart
            curves={picture.drawn}
            title={picture.title}
            x={picture.x}
            y={picture.y}
            top={picture.top}
            markX={picture.markX}
            markY={picture.markY}
            fromZero={picture.fromZero}
            chosen={chosen}
            band={band}
          />
        </div>
        <div className="flex justify-end text-[0.82rem]">
          <Button look="bare" onClick={csv} aria-label="Save what is shown as CSV">
            CSV
          </Button>
          <Button
            look="bare"
            aria-label="Save what is shown as SVG"
            onClick={() => frame.current && saveSvg(frame.current, `${code} curves.svg`)}
          >
            SVG
          </Button>
        </div>
      </div>
      <OddCurveList odd={odd} onPick={pick} />
    </div>
  );
}
