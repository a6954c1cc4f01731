'use client';

import { useMemo, useRef, useState } from 'react';
import {
  CartesianGrid,
  ComposedChart,
  Line,
  ReferenceArea,
  ReferenceLine,
  ResponsiveContainer,
  Tooltip,
  XAxis,
  YAxis,
} from 'recharts';
import { Button } from '@/kit/button';
import { AXIS, CLAIM_LINE, GRID, roundAxis, TOOLTIP } from '@/kit/chart-style';
import { saveFile, saveSvg } from '@/kit/export-picture';
import { Problem } from '@/kit/page';
import { type TimeRange, useTrace } from './use-trace';
import { Tick } from '@/kit/tick';

/** A stretch without readings; `ah` null where nothing says what flowed in it. */
export interface TraceHole {
  fromS: number;
  toS: number;
  ah?: number | null;
}

interface Point {
  h: number;
  v: number | null;
  a: number | null;
  c: number | null;
  ah: number;
}

export interface TraceDecimals {
  timeS: number;
  voltageV: number;
  currentA: number;
  temperatureC: number;
}

const USUAL: TraceDecimals = { timeS: 0, voltageV: 3, currentA: 3, temperatureC: 1 };
const orNull = (value: number) => (Number.isNaN(value) ? null : value);

/** Name, unit and decimals of what a line shows, by its key. */
const lineWords = (decimals: TraceDecimals) => ({
  v: ['voltage', 'V', decimals.voltageV],
  a: ['current', 'A', decimals.currentA],
  c: ['surface', '°C', decimals.temperatureC],
});

/** A break in the lines where there are no readings. */
function withHoles(points: Point[], holes: readonly TraceHole[]): Point[] {
  const broken: Point[] = [];
  let next = 0;
  for (const point of points) {
    while (next < holes.length && holes[next]!.toS / 3600 <= point.h + 1e-9) {
      const { fromS, toS } = holes[next]!;
      broken.push({ h: (fromS + toS) / 7200, v: null, a: null, c: null, ah: point.ah });
      next++;
    }
    broken.push(point);
  }
  return broken;
}

/** What stands over a hole, as far as it is wide enough. */
function holeWords({ ah }: TraceHole, share: number): string {
  if (share < 0.08) return '';
  if (share < 0.2 || ah === undefined) return 'no readings';
  return ah === null ? 'no readings, nothing counted' : `no readings, ${ah.toFixed(3)} Ah counted`;
}

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
  holes = [],
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
  const [range, setRange] = useState<TimeRange | null>(null);
  const [drag, setDrag] = useState<{ from: number; to: number } | null>(null);
  const [withC, setWithC] = useState(false);
  const frame = useRef<HTMLDivElement>(null);
  const { data, error } = useTrace(runId, range);
  const points = useMemo(
    (): Point[] =>
      data
        ? withHoles(
            Array.from(data.timeS, (t, i) => ({
              h: t / 3600,
              v: data.voltageV[i]!,
              a: orNull(data.currentA[i]!),
              c: orNull(data.temperatureC[i]!),
              ah: data.chargeAh[i]!,
            })),
            holes,
          )
        : [],
    [data, holes],
  );
  if (error) return <Problem>{error.message}</Problem>;
  const shown = range ?? { fromS: 0, toS: durationS };
  const lowest = points.reduce((low, { v }) => Math.min(low, v ?? low), range ? Infinity : cutoffV);
  const highest = points.reduce(
    (high, { v }) => Math.max(high, v ?? high),
    range ? -Infinity : cutoffV,
  );
  const up = roundAxis(lowest, highest, 6);
  const across = roundAxis(shown.fromS / 3600, shown.toS / 3600, 9, true);
  const width = shown.toS - shown.fromS;
  const inMinutes = shown.toS < 3 * 3600;
  const hasC = points.some((point) => point.c !== null);
  const clock = (h: number) =>
    width < 600
      ? `${(h * 3600).toFixed(Math.max(0, decimals.timeS))} s`
      : inMinutes
        ? `${(h * 60).toFixed(2)} min`
        : `${h.toFixed(4)} h`;
  const zoom = (factor: number, shift = 0) => {
    const middle = (shown.fromS + shown.toS) / 2 + shift * width;
    const half = Math.min(durationS, width * factor) / 2;
    const fromS = Math.max(0, Math.min(middle - half, durationS - 2 * half));
    const toS = Math.min(durationS, fromS + 2 * half);
    setRange(fromS <= 0 && toS >= durationS ? null : { fromS, toS });
  };
  const keys: Record<string, () => void> = {
    '+': () => zoom(0.5),
    '=': () => zoom(0.5),
    '-': () => zoom(2),
    ArrowLeft: () => zoom(1, -0.25),
    ArrowRight: () => zoom(1, 0.25),
    Escape: () => setRange(null),
  };
  const settleDrag = () => {
    if (drag) {
      const [fromS, toS] = [
        Math.min(drag.from, drag.to) * 3600,
        Math.max(drag.from, drag.to) * 3600,
      ];
      if (toS - fromS > width / 200) setRange({ fromS, toS });
    }
    setDrag(null);
  };
  const words = lineWords(decimals);
  const csv = () => {
    const cell = (value: number | null, digits: number) => value?.toFixed(digits) ?? '';
    const rows = points.map(({ h, v, a, c, ah }) =>
      [
        (h * 3600).toFixed(decimals.timeS),
        cell(v, decimals.voltageV),
        cell(a, decimals.currentA),
        cell(c, decimals.temperatureC),
        ah.toFixed(4),
      ].join(','),
    );
    saveFile(
      `${name}.csv`,
      'text/csv',
      `${['time_s,voltage_V,current_A,temperature_C,charge_given_Ah', ...rows].join('\n')}\n`,
    );
  };
  return (
    <div>
      <div
        ref={frame}
        className={`${tall ? 'h-[26rem]' : 'h-80'} select-none`}
        role="figure"
        tabIndex={0}
        aria-label={`Voltage and current of the run against time, ${clock(shown.fromS / 3600)} to ${clock(shown.toS / 3600)}, cut-off ${cutoffV} V`}
        onKeyDown={(event) => {
          const act = keys[event.key];
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
              activeLabel !== undefined &&
              setDrag({ from: Number(activeLabel), to: Number(activeLabel) })
            }
            onMouseMove={({ activeLabel }) =>
              drag && activeLabel !== undefined && setDrag({ ...drag, to: Number(activeLabel) })
            }
            onMouseUp={settleDrag}
            onMouseLeave={() => setDrag(null)}
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
            <XAxis
              {...AXIS}
              type="number"
              dataKey="h"
              domain={across.domain}
              ticks={across.ticks}
              allowDataOverflow
              tickFormatter={(h: number) =>
                width < 600
                  ? (h * 3600).toFixed(0)
                  : inMinutes
                    ? (h * 60).toFixed(across.decimals > 1 ? 1 : 0)
                    : h.toFixed(across.decimals)
              }
            />
            <YAxis
              {...AXIS}
              yAxisId="v"
              domain={up.domain}
              ticks={up.ticks}
              width={56}
              tickFormatter={(v: number) => v.toFixed(Math.max(1, up.decimals))}
              label={{ value: 'V', position: 'insideTopLeft', fill: 'var(--quiet)', fontSize: 12 }}
            />
            <YAxis
              {...AXIS}
              yAxisId="a"
              orientation="right"
              width={52}
              label={{ value: 'A', position: 'insideTopRight', fill: 'var(--quiet)', fontSize: 12 }}
            />
            {withC && (
              <YAxis
                {...AXIS}
                yAxisId="c"
                orientation="right"
                width={44}
                domain={['auto', 'auto']}
                label={{
                  value: '°C',
                  position: 'insideTopRight',
                  fill: 'var(--quiet)',
                  fontSize: 12,
                }}
              />
            )}
            <Line
              yAxisId="a"
              dataKey="a"
              stroke="var(--strong-rule)"
              strokeWidth={1}
              strokeDasharray="3 2"
              dot={false}
              isAnimationActive={false}
              type="stepAfter"
            />
            {withC && (
              <Line
                yAxisId="c"
                dataKey="c"
                stroke="var(--doubt)"
                strokeWidth={1.2}
                strokeDasharray="1 3"
                dot={false}
                isAnimationActive={false}
              />
            )}
            <Line
              yAxisId="v"
              dataKey="v"
              stroke="var(--curve)"
              strokeWidth={1.8}
              dot={data?.isWhole && points.length < 150 ? { r: 2.2, fill: 'var(--curve)' } : false}
              isAnimationActive={false}
            />
            {cutoffV >= up.domain[0] && cutoffV <= up.domain[1] && (
              <ReferenceLine
                yAxisId="v"
                y={cutoffV}
                {...CLAIM_LINE}
                label={{
                  value: `cut-off ${cutoffV} V`,
                  fill: 'var(--ember)',
                  fontSize: 12,
                  position: 'insideBottomLeft',
                }}
              />
            )}
            {holes
              .filter(({ fromS, toS }) => toS > shown.fromS && fromS < shown.toS)
              .map((hole) => (
                <ReferenceArea
                  key={hole.fromS}
                  yAxisId="v"
                  x1={Math.max(hole.fromS, shown.fromS) / 3600}
                  x2={Math.min(hole.toS, shown.toS) / 3600}
                  fill="var(--quiet)"
                  fillOpacity={0.16}
                  stroke="var(--quiet)"
                  strokeDasharray="2 3"
                  ifOverflow="hidden"
                  label={{
                    value: holeWords(hole, (hole.toS - hole.fromS) / width),
                    fill: 'var(--quiet)',
                    fontSize: 12,
                    position: 'insideTop',
                  }}
                />
              ))}
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
                const ah = (first?.payload as Point | undefined)?.ah;
                return `${clock(Number(h))}${ah ? `, ${ah.toFixed(4)} Ah given` : ''}`;
              }}
              formatter={(value, _, item) => {
                const [title, unit, digits] = words[item.dataKey as keyof typeof words];
                return [`${Number(value).toFixed(digits as number)} ${unit}`, title];
              }}
            />
          </ComposedChart>
        </ResponsiveContainer>
      </div>
      <div className="mt-1 flex flex-wrap items-center gap-x-1 text-[0.82rem] text-quiet">
        <span className="mr-auto min-w-0 flex-1">
          Time / {width < 600 ? 's' : inMinutes ? 'min' : 'h'}. Line: voltage; dashes: current;
          shaded: used for the figures{holes.length > 0 && '; grey: no readings'}. Drag to zoom
          {data && (data.isWhole ? '; every sample is drawn' : '; extremes are drawn')}.
        </span>
        {hasC && (
          <Tick checked={withC} onChecked={(on) => setWithC(on)} className="gap-1.5 px-2">
            Temperature
          </Tick>
        )}
        {range && (
          <>
            <Button look="bare" onClick={() => zoom(2)}>
              Wider
            </Button>
            <Button look="bare" onClick={() => setRange(null)}>
              Whole run
            </Button>
          </>
        )}
        <Button look="bare" onClick={csv} aria-label="Save what is shown as CSV">
          CSV
        </Button>
        <Button
          look="bare"
          aria-label="Save what is shown as SVG"
          onClick={() => frame.current && saveSvg(frame.current, `${name}.svg`)}
        >
          SVG
        </Button>
      </div>
    </div>
  );
}
