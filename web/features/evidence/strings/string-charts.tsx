'use client';

import type { ThinnedString } from '@dusk-tally/core/evidence';
import type { StringPage } from '@dusk-tally/lab/evidence';
import { useMemo, useRef } from 'react';
import { Button } from '@/kit/button';
import { saveFile, saveSvg } from '@/kit/export-picture';
import { LabMoment } from '@/kit/lab-time';
import { StringChart } from './string-chart';
import type { StringLine } from './string-layer';
import { hourOf, linesOf, rangeOf, stringCsv } from './string-lines';
import type { useStringWindow } from './use-string-window';

/** Cells as they are drawn: all, with some picked out, or those alone. */
function cellLines(
  view: ThinnedString,
  names: readonly string[],
  { chosen, only, holeS }: { chosen: ReadonlySet<number>; only: boolean; holeS: number },
): StringLine[] {
  return names
    .map((name, c) => ({ name, c }))
    .filter(({ c }) => !only || chosen.size === 0 || chosen.has(c))
    .sort((a, b) => Number(chosen.has(a.c)) - Number(chosen.has(b.c)))
    .map(({ name, c }) => ({
      name,
      pieces: linesOf(view, view.lowV[c]!, view.highV[c]!, holeS),
      look: chosen.has(c) ? 'chosen' : chosen.size > 0 ? 'faint' : 'plain',
    }));
}

const inMillivolts = (values: Float32Array) => values.map((v) => 1000 * v);

/** The lines of both charts and what they range over. */
export function useLines(
  view: ThinnedString | undefined,
  names: readonly string[],
  picked: { chosen: ReadonlySet<number>; only: boolean; holeS: number },
) {
  const { chosen, only, holeS } = picked;
  return useMemo(() => {
    if (!view) return null;
    const cells = cellLines(view, names, { chosen, only, holeS });
    const drawn = names.flatMap((_, c) =>
      only && chosen.size > 0 && !chosen.has(c) ? [] : [[view.lowV[c]!, view.highV[c]!] as const],
    );
    const [low, high] = [inMillivolts(view.lowSpreadV), inMillivolts(view.highSpreadV)];
    return {
      cells,
      volts: rangeOf(drawn),
      spread: [{ name: 'spread', pieces: linesOf(view, low, high, holeS), look: 'plain' as const }],
      mostMv: rangeOf([[low, high]])[1],
    };
  }, [view, names, chosen, only, holeS]);
}

/** Both pictures, one above the other, with the moment of the pointer told below. */
export function StringCharts({
  page,
  names,
  window,
  view,
  lines,
  at,
  balanceMv,
  onMoment,
}: {
  page: StringPage;
  names: readonly string[];
  window: ReturnType<typeof useStringWindow>;
  view: ThinnedString | undefined;
  lines: ReturnType<typeof useLines>;
  /** Stretch under the pointer. */
  at: number | null;
  balanceMv: number;
  onMoment: (h: number | null) => void;
}) {
  const frame = useRef<HTMLDivElement>(null);
  const { shown, clock, drag, onDrag } = window;
  const chart = { shown, clock, drag, onDrag, onMoment };
  const atH = at !== null && view ? hourOf(view, at) : null;
  return (
    <div
      ref={frame}
      className="min-w-0 select-none"
      role="figure"
      tabIndex={0}
      aria-label={`Voltages of ${names.length} cells against time, ${clock.clock(shown.fromS / 3600)} to ${clock.clock(shown.toS / 3600)}, and their spread below`}
      onKeyDown={(event) => {
        const act = window.keys[event.key];
        if (!act || event.ctrlKey || event.metaKey) return;
        event.preventDefault();
        act();
      }}
    >
      <div className="h-72">
        {lines && (
          <StringChart
            {...chart}
            lines={lines.cells}
            range={lines.volts}
            unit="V"
            decimals={page.decimalsV}
            at={atH}
            hasTimes={false}
          />
        )}
      </div>
      <div className="h-40">
        {lines && (
          <StringChart
            {...chart}
            lines={lines.spread}
            range={[0, Math.max(lines.mostMv, balanceMv * 1.1)]}
            unit="mV"
            decimals={0}
            mark={balanceMv}
            at={atH}
          />
        )}
      </div>
      <div className="mt-1 flex items-start gap-x-2 text-[0.82rem] text-quiet">
        <span className="mr-auto" data-testid="string-moment">
          Time / {clock.unit}. Above: every cell; below: highest less lowest, dashes where balancing
          acts. Drag to zoom.
          {atH !== null && (
            <>
              {' '}
              At {clock.clock(atH)}
              {page.startedAt && (
                <>
                  {' '}
                  (<LabMoment at={new Date(+new Date(page.startedAt) + 3_600_000 * atH)} />)
                </>
              )}
              {view?.currentA && `, ${view.currentA[at!]!.toFixed(2)} A`}.
            </>
          )}
        </span>
        <Button
          look="bare"
          aria-label="Save what is shown as CSV"
          onClick={() =>
            view && saveFile(`${page.name}.csv`, 'text/csv', stringCsv(view, names, page.decimalsV))
          }
        >
          CSV
        </Button>
        <Button
          look="bare"
          aria-label="Save what is shown as SVG"
          onClick={() => frame.current && saveSvg(frame.current, `${page.name}.svg`)}
        >
          SVG
        </Button>
      </div>
    </div>
  );
}
