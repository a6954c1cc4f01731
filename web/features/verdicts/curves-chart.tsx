'use client';

import type { MedianBand } from '@dusk-tally/core/evidence';
import { useRouter } from 'next/navigation';
import { type PointerEvent, useMemo, useState } from 'react';
import {
  CartesianGrid,
  ComposedChart,
  ReferenceLine,
  ResponsiveContainer,
  Scatter,
  usePlotArea,
  useXAxisScale,
  useYAxisScale,
  XAxis,
  YAxis,
} from 'recharts';
import { AXIS, CLAIM_LINE, claimLabel, GRID, roundAxis } from '@/kit/chart-style';
import type { CellCurve } from './use-curves';

type AxisKind = 'capacity' | 'time';
type Scale = (value: number) => number;

interface Drawn {
  number: string;
  xs: Float32Array;
  ys: Float32Array;
}

interface Pick {
  number: string;
  x: number;
  y: number;
}

function pathOf(curve: Drawn, toX: Scale, toY: Scale): string {
  let path = '';
  for (let i = 0; i < curve.xs.length; i++)
    path += `${i === 0 ? 'M' : 'L'}${toX(curve.xs[i]!).toFixed(1)} ${toY(curve.ys[i]!).toFixed(1)}`;
  return path;
}

/** The drawn point nearest to the pointer, within reach. */
function nearest(
  curves: Drawn[],
  toX: Scale,
  toY: Scale,
  at: { x: number; y: number },
): Pick | null {
  let best: Pick | null = null;
  let bestDistance = 30 ** 2;
  for (const curve of curves) {
    for (let i = 0; i < curve.xs.length; i++) {
      const distance = (toX(curve.xs[i]!) - at.x) ** 2 + (toY(curve.ys[i]!) - at.y) ** 2;
      if (distance < bestDistance) {
        bestDistance = distance;
        best = { number: curve.number, x: curve.xs[i]!, y: curve.ys[i]! };
      }
    }
  }
  return best;
}

/** Median of the lot and three spreads to each side. */
function BandLayer({ band }: { band: MedianBand }) {
  const scaleX = useXAxisScale() as Scale | undefined;
  const scaleY = useYAxisScale() as Scale | undefined;
  const plot = usePlotArea();
  if (!scaleX || !scaleY || !plot) return null;
  const inside = (y: number) => Math.max(plot.y, Math.min(plot.y + plot.height, y));
  const line = (offset: (i: number) => number, order: number[]) =>
    order
      .map(
        (i) =>
          `${scaleX(band.x[i]!).toFixed(1)} ${inside(scaleY(band.median[i]! + offset(i))).toFixed(1)}`,
      )
      .join('L');
  const forth = band.x.map((_, i) => i);
  const back = [...forth].reverse();
  return (
    <g pointerEvents="none">
      <path
        d={`M${line((i) => 3 * band.spread[i]!, forth)}L${line((i) => -3 * band.spread[i]!, back)}Z`}
        fill="var(--ember)"
        opacity={0.13}
      />
      <path
        d={`M${line(() => 0, forth)}`}
        fill="none"
        stroke="var(--ember)"
        strokeWidth={1.4}
        strokeDasharray="7 3"
      />
    </g>
  );
}

/** All curves as plain paths inside the chart's own scales: 240 cells stay quick. */
function CurveLayer({
  curves,
  chosen,
  axis,
}: {
  curves: Drawn[];
  chosen: Set<string>;
  axis: AxisKind;
}) {
  const router = useRouter();
  const plot = usePlotArea();
  const scaleX = useXAxisScale() as Scale | undefined;
  const scaleY = useYAxisScale() as Scale | undefined;
  const [pick, setPick] = useState<Pick | null>(null);
  const paths = useMemo(
    () =>
      scaleX && scaleY
        ? curves.map((curve) => ({ number: curve.number, d: pathOf(curve, scaleX, scaleY) }))
        : [],
    [curves, scaleX, scaleY],
  );
  if (!plot || !scaleX || !scaleY) return null;
  const faint = chosen.size > 0;
  const opacity = Math.max(0.12, Math.min(0.85, 10 / Math.sqrt(curves.length) / 3));
  const onMove = (event: PointerEvent<SVGRectElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    setPick(
      nearest(curves, scaleX, scaleY, {
        x: event.clientX - box.left + plot.x,
        y: event.clientY - box.top + plot.y,
      }),
    );
  };
  const left = pick ? Math.min(scaleX(pick.x) + 10, plot.x + plot.width - 175) : 0;
  const top = pick ? Math.max(plot.y, scaleY(pick.y) - 52) : 0;
  return (
    <g>
      <g fill="none">
        {paths.map(({ number, d }) => {
          const on = pick?.number === number || chosen.has(number);
          return (
            <path
              key={number}
              d={d}
              stroke={on ? 'var(--ember)' : 'var(--curve)'}
              strokeWidth={on ? 2 : 1}
              opacity={on ? 1 : faint ? opacity / 2 : opacity}
            />
          );
        })}
      </g>
      {pick && (
        <g pointerEvents="none">
          <circle
            cx={scaleX(pick.x)}
            cy={scaleY(pick.y)}
            r={4}
            fill="none"
            stroke="var(--ink)"
            strokeWidth={1.5}
          />
          <rect
            x={left}
            y={top}
            width={165}
            height={42}
            rx={3}
            fill="var(--raised)"
            stroke="var(--strong-rule)"
          />
          <text x={left + 10} y={top + 17} fill="var(--ink)" fontSize={13} fontWeight={600}>
            {pick.number}
          </text>
          <text x={left + 10} y={top + 34} fill="var(--quiet)" fontSize={12}>
            {axis === 'capacity' ? `${pick.x.toFixed(3)} Ah` : `${pick.x.toFixed(3)} h`},{' '}
            {pick.y.toFixed(3)} V
          </text>
        </g>
      )}
      <rect
        x={plot.x}
        y={plot.y}
        width={plot.width}
        height={plot.height}
        fill="transparent"
        style={{ cursor: pick ? 'pointer' : 'default' }}
        onPointerMove={onMove}
        onPointerLeave={() => setPick(null)}
        onClick={() => pick && router.push(`/cells/${pick.number}`)}
      />
    </g>
  );
}

const edges = (curves: Drawn[], key: 'xs' | 'ys') => {
  let low = Infinity;
  let high = -Infinity;
  for (const curve of curves)
    for (const value of curve[key]) {
      low = Math.min(low, value);
      high = Math.max(high, value);
    }
  return { low, high };
};

/** Discharge curves of a lot, all or some cells, against charge or time, with the claim. */
export function CurvesChart({
  curves,
  axis,
  claimAh,
  cutoffV,
  chosen,
  band,
}: {
  curves: CellCurve[];
  axis: AxisKind;
  claimAh: number | null;
  cutoffV: number;
  chosen: Set<string>;
  /** The lot’s median with its spread; drawn behind the curves. */
  band: MedianBand | null;
}) {
  const drawn = useMemo(
    () =>
      curves.map(({ number, curve }): Drawn => ({
        number,
        ys: curve.voltageV,
        xs:
          axis === 'capacity'
            ? curve.chargeAh
            : curve.timeS.map((t) => (t - curve.timeS[0]!) / 3600),
      })),
    [curves, axis],
  );
  const x = edges(drawn, 'xs');
  const y = edges(drawn, 'ys');
  const right = axis === 'capacity' && claimAh ? Math.max(x.high, claimAh) : x.high;
  const bottom = Math.min(y.low, cutoffV);
  const acrossAxis = roundAxis(0, right * 1.02, 9, true);
  const upAxis = roundAxis(bottom, y.high, 6);
  return (
    <div
      className="h-[52vh] min-h-80"
      role="img"
      aria-label={`Voltage against ${axis === 'capacity' ? 'charge' : 'time'} for ${curves.length} cells`}
    >
      <ResponsiveContainer width="100%" height="100%">
        <ComposedChart margin={{ top: 10, right: 18, bottom: 22, left: 8 }}>
          <CartesianGrid {...GRID} />
          <XAxis
            {...AXIS}
            type="number"
            dataKey="x"
            domain={acrossAxis.domain}
            ticks={acrossAxis.ticks}
            tickFormatter={(v: number) => v.toFixed(acrossAxis.decimals)}
            label={{
              value: axis === 'capacity' ? 'charge given / Ah' : 'time under load / h',
              position: 'bottom',
              offset: 4,
              fill: 'var(--quiet)',
              fontSize: 12,
            }}
          />
          <YAxis
            {...AXIS}
            type="number"
            dataKey="y"
            domain={upAxis.domain}
            ticks={upAxis.ticks}
            width={56}
            tickFormatter={(v: number) => v.toFixed(Math.max(1, upAxis.decimals))}
            label={{ value: 'V', position: 'insideTopLeft', fill: 'var(--quiet)', fontSize: 12 }}
          />
          {/* Without data a chart has no scales; one unseen point gives it some. */}
          <Scatter data={[{ x: 0, y: bottom }]} fill="none" isAnimationActive={false} />
          {band && <BandLayer band={band} />}
          <CurveLayer curves={drawn} chosen={chosen} axis={axis} />
          <ReferenceLine
            y={cutoffV}
            stroke="var(--quiet)"
            strokeDasharray="2 3"
            label={{
              value: `cut-off ${cutoffV} V`,
              fill: 'var(--quiet)',
              fontSize: 12,
              position: 'insideBottomLeft',
            }}
          />
          {axis === 'capacity' && claimAh && (
            <ReferenceLine x={claimAh} {...CLAIM_LINE} label={claimLabel(`claim ${claimAh} Ah`)} />
          )}
        </ComposedChart>
      </ResponsiveContainer>
    </div>
  );
}
