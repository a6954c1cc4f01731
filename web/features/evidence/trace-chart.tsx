'use client';

import { useRef, useState } from 'react';
import {
  CartesianGrid,
  ComposedChart,
  ReferenceArea,
  ResponsiveContainer,
  Tooltip,
} from 'recharts';
import { GRID, TOOLTIP } from '@/kit/chart-style';
import { saveFile, saveSvg } from '@/kit/export-picture';
import { Problem } from '@/kit/page';
import { traceAxes, traceLines, traceMarks } from './trace-parts';
import { TraceTools } from './trace-tools';
import {
  lineWords,
  traceCsv,
  type TraceDecimals,
  type TraceHole,
  type TracePoint,
} from './trace-window';
import { useTraceWindow } from './use-trace-window';

export type { TraceDecimals, TraceHole } from './trace-window';

const USUAL: TraceDecimals = { timeS: 0, voltageV: 3, currentA: 3, temperatureC: 1 };
const NO_HOLES: readonly TraceHole[] = [];
/** So few samples are drawn as dots, too. */
const FEW = 150;

/**
 * The log of a run: voltage, current, temperature, and the part its figures were read from. Drag
 * across to zoom down to the samples; + − and the arrows do the same from the keyboard.
 */
export function TraceChart({
  runId,
  name,
  span,
  cutoffV,
  durationS,
  holes = NO_HOLES,
  decimals = USUAL,
  tall = false,
}: {
  runId: number;
  /** File name for what is saved. */
  name: string;
  span: { fromS: number; toS: number } | null;
  cutoffV: number;
  durationS: number;
  /** Drawn as holes, not as straight lines. */
  holes?: readonly TraceHole[];
  decimals?: TraceDecimals;
  tall?: boolean;
}) {
  const window = useTraceWindow({ runId, durationS, cutoffV, holes, decimals });
  const { points, shown, drag, up, across, scale } = window;
  const [withC, setWithC] = useState(false);
  const frame = useRef<HTMLDivElement>(null);
  if (window.error) return <Problem>{window.error.message}</Problem>;
  const words = lineWords(decimals);
  const hasC = points.some((point) => point.c !== null);
  return (
    <div>
      <div
        ref={frame}
        className={`${tall ? 'h-[26rem]' : 'h-80'} select-none`}
        role="figure"
        tabIndex={0}
        aria-label={`Voltage and current of the run against time, ${scale.clock(shown.fromS / 3600)} to ${scale.clock(shown.toS / 3600)}, cut-off ${cutoffV} V`}
        onKeyDown={(event) => {
          const act = window.keys[event.key];
          if (!act || event.ctrlKey || event.metaKey) return;
          event.preventDefault();
          act();
        }}
      >
        <ResponsiveContainer width="100%" height="100%">
          <ComposedChart
            data={points}
            margin={{ top: 10, right: 4, bottom: 4, left: 4 }}
            onMouseDown={({ activeLabel }) =>
              activeLabel !== undefined && window.dragTo(Number(activeLabel), true)
            }
            onMouseMove={({ activeLabel }) =>
              drag && activeLabel !== undefined && window.dragTo(Number(activeLabel))
            }
            onMouseUp={window.settleDrag}
            onMouseLeave={() => window.dragTo(null)}
          >
            <CartesianGrid {...GRID} />
            {span && (
              <ReferenceArea
                yAxisId="v"
                x1={Math.max(span.fromS, shown.fromS) / 3600}
                x2={Math.min(span.toS, shown.toS) / 3600}
                fill="var(--ember)"
                fillOpacity={0.07}
                ifOverflow="hidden"
              />
            )}
            {traceAxes(up, across, scale, withC)}
            {traceLines(withC, window.isWhole === true && points.length < FEW)}
            {traceMarks(cutoffV, up, holes, shown)}
            {drag && (
              <ReferenceArea
                yAxisId="v"
                x1={drag.from}
                x2={drag.to}
                fill="var(--curve)"
                fillOpacity={0.18}
              />
            )}
            <Tooltip
              contentStyle={TOOLTIP}
              labelFormatter={(h, [first]) => {
                const ah = (first?.payload as TracePoint | undefined)?.ah;
                return `${scale.clock(Number(h))}${ah ? `, ${ah.toFixed(4)} Ah given` : ''}`;
              }}
              formatter={(value, _, item) => {
                const [title, unit, digits] = words[item.dataKey as keyof typeof words];
                return [`${Number(value).toFixed(digits)} ${unit}`, title];
              }}
            />
          </ComposedChart>
        </ResponsiveContainer>
      </div>
      <TraceTools
        unit={scale.unit}
        isWhole={window.isWhole}
        hasHoles={holes.length > 0}
        temperature={hasC ? { isOn: withC, onChange: setWithC } : null}
        isZoomed={window.range !== null}
        onWider={window.wider}
        onWhole={window.whole}
        onCsv={() => saveFile(`${name}.csv`, 'text/csv', traceCsv(points, decimals))}
        onSvg={() => frame.current && saveSvg(frame.current, `${name}.svg`)}
      />
    </div>
  );
}
