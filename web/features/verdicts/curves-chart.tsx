'use client';

import type { MedianBand } from '@dusk-tally/core/evidence';
import {
  CartesianGrid,
  ComposedChart,
  ReferenceLine,
  ResponsiveContainer,
  Scatter,
  XAxis,
  YAxis,
} from 'recharts';
import { AXIS, CLAIM_LINE, claimLabel, GRID, roundAxis } from '@/kit/chart-style';
import { type Drawn, type Axis, type Mark, BandLayer, CurveLayer } from './curve-layers';

export type { Drawn, Axis, Mark } from './curve-layers';

const edges = (curves: Drawn[], key: 'xs' | 'ys') => {
  let low = Infinity;
  let high = -Infinity;
  for (const curve of curves)
    for (let i = 0; i < curve[key].length; i++) {
      const value = curve[key][i]!;
      if (value < low) low = value;
      if (value > high) high = value;
    }
  return { low, high };
};

/** Curves of a lot, all or some cells, in one pair of axes, with what they are held against. */
export function CurvesChart({
  curves,
  title,
  x,
  y,
  top,
  markX,
  markY,
  fromZero,
  chosen,
  band,
}: {
  curves: Drawn[];
  title: string;
  x: Axis;
  y: Axis;
  /** Highest value of the upright axis; curves beyond it are cut. */
  top?: number;
  markX: Mark | null;
  markY: Mark | null;
  /** Which axes begin at zero. */
  fromZero: 'x' | 'y' | 'both';
  chosen: Set<string>;
  /** The lot’s median with its spread; drawn behind the curves. */
  band: MedianBand | null;
}) {
  const across = edges(curves, 'xs');
  const up = edges(curves, 'ys');
  const right = Math.max(across.high, markX?.value ?? -Infinity);
  const highest = top ?? up.high;
  const left = fromZero === 'y' ? across.low : 0;
  const bottom = fromZero === 'x' ? Math.min(up.low, markY?.value ?? Infinity) : 0;
  const acrossAxis = roundAxis(left, right + 0.02 * (right - left), 9, true);
  const upAxis = roundAxis(bottom, highest, 6);
  return (
    <div
      className="h-[52vh] min-h-80"
      role="img"
      aria-label={`${title} for ${curves.length} ${curves.length === 1 ? 'cell' : 'cells'}`}
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
              value: `${x.label} / ${x.unit}`,
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
            label={{ value: y.unit, position: 'insideTopLeft', fill: 'var(--quiet)', fontSize: 12 }}
          />
          {/* Without data a chart has no scales; one unseen point gives it some. */}
          <Scatter
            data={[{ x: acrossAxis.domain[0], y: upAxis.domain[0] }]}
            fill="none"
            isAnimationActive={false}
          />
          {band && <BandLayer band={band} />}
          <CurveLayer curves={curves} chosen={chosen} x={x} y={y} />
          {markY && (
            <ReferenceLine
              y={markY.value}
              stroke="var(--quiet)"
              strokeDasharray="2 3"
              label={{
                value: markY.label,
                fill: 'var(--quiet)',
                fontSize: 12,
                position: 'insideBottomLeft',
              }}
            />
          )}
          {markX && (
            <ReferenceLine x={markX.value} {...CLAIM_LINE} label={claimLabel(markX.label)} />
          )}
        </ComposedChart>
      </ResponsiveContainer>
    </div>
  );
}
