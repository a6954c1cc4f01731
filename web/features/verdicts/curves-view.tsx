'use client';

import { medianBand, type OddCurve } from '@dusk-tally/core/evidence';
import { type RefObject, useMemo, useRef, useState } from 'react';
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
import { CellsField } from '@/kit/cells-field';
import { type NameableCell, readCells } from '@dusk-tally/core/arrivals';
import { useCurves, useDerivatives } from '@/lib/use-curves';
import { Tick } from '@/kit/tick';
import { Toggles } from '@/kit/toggles';

/** Cells picked out by number; they stand in the address. */
function usePicked(cells: readonly NameableCell[]) {
  const { query, set } = useAddress();
  const [text, setText] = useState(query.get('cells') ?? '');
  const read = useMemo(() => readCells(text, cells), [text, cells]);
  const chosen = useMemo(() => {
    const ids = new Set(read.ids);
    return new Set(cells.filter(({ id }) => ids.has(id)).map(({ number }) => number));
  }, [read, cells]);
  const pick = (number: string) => {
    const next = text.split(/,\s*/).filter(Boolean).concat(number).join(', ');
    setText(next);
    set({ cells: next });
  };
  return { text, setText, read, chosen, pick };
}

/** While the curves are fetched, and where there is none. */
function NothingDrawn({ isFetching, odd }: { isFetching: boolean; odd: OddCurve[] }) {
  if (isFetching)
    return (
      <p className="text-quiet" role="status">
        Fetching the curves …
      </p>
    );
  return (
    <div className="space-y-4">
      <Empty title="No discharge yet">
        Bring in the testers’ logs under Logs; each discharge appears here.
      </Empty>
      {odd.length > 0 && <OddCurveList odd={odd} onPick={null} />}
    </div>
  );
}

/** Saves what is shown. */
function SaveAs({
  code,
  csv,
  frame,
}: {
  code: string;
  csv: () => void;
  frame: RefObject<HTMLDivElement | null>;
}) {
  return (
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
  );
}

/** The lot’s curves with what to show kept in the address. */
export function CurvesView({
  lotId,
  code,
  odd,
  cells,
  claimAh,
  cutoffV,
}: {
  lotId: number;
  code: string;
  /** All of the lot, in its order. */
  cells: readonly NameableCell[];
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
  const { text, setText, read, chosen, pick } = usePicked(cells);
  if (error) return <Problem>{error.message}</Problem>;
  if (!data || data.length === 0) return <NothingDrawn isFetching={!data} odd={odd} />;
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
          <Toggles
            label="What is drawn"
            value={kind}
            onValue={(one) => set({ axis: one === 'charge' ? null : one })}
            options={KINDS.map((one) => [one, KIND_WORDS[one]] as const)}
          />
          <CellsField
            label="Cells"
            lot={code}
            cells={cells}
            read={read}
            text={text}
            onText={setText}
            onBlur={() => set({ cells: text })}
            inputClass="w-56"
          />
          <Tick checked={only} onChecked={(on) => set({ only: on ? '1' : null })}>
            only these
          </Tick>
          {kind === 'charge' && data.length >= 5 && (
            <Tick checked={withBand} onChecked={(on) => set({ band: on ? null : '0' })}>
              median band
            </Tick>
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
        <SaveAs code={code} csv={csv} frame={frame} />
      </div>
      <OddCurveList odd={odd} onPick={pick} />
    </div>
  );
}
