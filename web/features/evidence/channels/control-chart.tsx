'use client';

import type { ChannelState } from '@dusk-tally/lab/evidence';
import {
  CartesianGrid,
  ComposedChart,
  Line,
  ReferenceLine,
  ResponsiveContainer,
  Tooltip,
  XAxis,
  YAxis,
} from 'recharts';
import { AXIS, GRID, roundAxis, TOOLTIP } from '@/kit/chart-style';
import { useLabDay } from '@/kit/lab-time';

interface Mark {
  cx?: number;
  cy?: number;
  payload?: { signal: string | null };
}

/** A point in control is a dot, one a rule speaks against an open square: shape, not colour alone. */
function Point({ cx, cy, payload }: Mark) {
  if (cx === undefined || cy === undefined) return null;
  return payload?.signal ? (
    <rect
      x={cx - 4.5}
      y={cy - 4.5}
      width={9}
      height={9}
      fill="var(--sheet)"
      stroke="var(--missed)"
      strokeWidth={2}
    />
  ) : (
    <circle cx={cx} cy={cy} r={2.6} fill="var(--curve)" />
  );
}

/** Control cells on one channel, in order of time, with the limits of its first points. */
export function ControlChartPicture({ chart }: { chart: NonNullable<ChannelState['chart']> }) {
  const dayOf = useLabDay();
  const data = chart.points.map((point, i) => ({
    n: i + 1,
    value: point.value,
    signal: point.signal,
    cell: point.cell,
    day: dayOf(point.at),
  }));
  const values = [...data.map((point) => point.value), chart.lower, chart.upper];
  const up = roundAxis(Math.min(...values), Math.max(...values), 5);
  const looked = Math.max(0, ...chart.looks.map((look) => look.upToRunId));
  const lookedAt = chart.points.findLastIndex((point) => point.runId <= looked);
  const odd = data.filter((point) => point.signal).length;
  return (
    <div
      className="h-44"
      role="img"
      aria-label={`Control chart of ${data.length} points, ${odd} of them out of control`}
    >
      <ResponsiveContainer width="100%" height="100%">
        <ComposedChart data={data} margin={{ top: 8, right: 14, bottom: 4, left: 0 }}>
          <CartesianGrid {...GRID} />
          <XAxis {...AXIS} dataKey="n" />
          <YAxis
            {...AXIS}
            width={60}
            domain={up.domain}
            ticks={up.ticks}
            tickFormatter={(value: number) => `${value.toFixed(up.decimals)} %`}
          />
          <ReferenceLine y={chart.centre} stroke="var(--quiet)" />
          <ReferenceLine y={chart.upper} stroke="var(--doubt)" strokeDasharray="6 4" />
          <ReferenceLine y={chart.lower} stroke="var(--doubt)" strokeDasharray="6 4" />
          {lookedAt >= 0 && (
            <ReferenceLine
              x={lookedAt + 1}
              stroke="var(--quiet)"
              strokeDasharray="2 3"
              label={{ value: 'looked at', fill: 'var(--quiet)', fontSize: 12, position: 'top' }}
            />
          )}
          <Line
            dataKey="value"
            stroke="var(--strong-rule)"
            strokeWidth={1}
            dot={<Point />}
            activeDot={false}
            isAnimationActive={false}
          />
          <Tooltip
            contentStyle={TOOLTIP}
            labelFormatter={(_, points) => {
              const point = points[0]?.payload as (typeof data)[number] | undefined;
              return point ? `${point.cell}, ${point.day}` : '';
            }}
            formatter={(value, _, { payload }) => [
              `${Number(value).toFixed(2)} %${payload.signal ? `, ${payload.signal}` : ''}`,
              'from its first points',
            ]}
          />
        </ComposedChart>
      </ResponsiveContainer>
    </div>
  );
}
