'use client';

import {
  CartesianGrid,
  ComposedChart,
  ReferenceLine,
  ResponsiveContainer,
  Scatter,
  XAxis,
  YAxis,
} from 'recharts';
import { AXIS, CLAIM_LINE, GRID, roundAxis } from '@/kit/chart-style';
import type { timeScale } from '../trace-window';
import type { TimeRange } from '../use-trace';
import { StringLayer, type StringLine } from './string-layer';

/** Lines against time in one pair of axes; two of these stand above each other. */
export function StringChart({
  lines,
  shown,
  range,
  unit,
  decimals,
  clock,
  mark = null,
  at,
  drag,
  hasTimes = true,
  onMoment,
  onDrag,
}: {
  lines: readonly StringLine[];
  shown: TimeRange;
  /** Lowest and highest of the upright axis. */
  range: readonly [number, number];
  unit: string;
  decimals: number;
  clock: ReturnType<typeof timeScale>;
  /** A value marked across. */
  mark?: number | null;
  at: number | null;
  drag: { from: number; to: number } | null;
  hasTimes?: boolean;
  onMoment: (h: number | null) => void;
  onDrag: (kind: 'begin' | 'move' | 'end' | 'leave', h: number) => void;
}) {
  const across = roundAxis(shown.fromS / 3600, shown.toS / 3600, 9, true);
  const up = roundAxis(range[0], Math.max(range[1], range[0] + 10 ** -decimals), 5);
  return (
    <ResponsiveContainer width="100%" height="100%">
      <ComposedChart margin={{ top: 8, right: 14, bottom: hasTimes ? 4 : 0, left: 4 }}>
        <CartesianGrid {...GRID} />
        <XAxis
          {...AXIS}
          type="number"
          dataKey="h"
          domain={across.domain}
          ticks={across.ticks}
          tick={hasTimes ? AXIS.tick : false}
          height={hasTimes ? 26 : 6}
          allowDataOverflow
          tickFormatter={(h: number) => clock.tick(h, across.decimals)}
        />
        <YAxis
          {...AXIS}
          type="number"
          dataKey="y"
          domain={up.domain}
          ticks={up.ticks}
          width={60}
          allowDataOverflow
          tickFormatter={(y: number) => y.toFixed(Math.max(up.decimals, Math.min(decimals, 2)))}
          label={{ value: unit, position: 'insideTopLeft', fill: 'var(--quiet)', fontSize: 12 }}
        />
        {/* Without data a chart has no scales; one unseen point gives it some. */}
        <Scatter
          data={[{ h: across.domain[0], y: up.domain[0] }]}
          fill="none"
          isAnimationActive={false}
        />
        {mark !== null && mark <= up.domain[1] && <ReferenceLine y={mark} {...CLAIM_LINE} />}
        <StringLayer lines={lines} at={at} drag={drag} onMoment={onMoment} onDrag={onDrag} />
      </ComposedChart>
    </ResponsiveContainer>
  );
}
