'use client';

import type { SpreadAtMean } from '@dusk-tally/core/evidence';
import {
  CartesianGrid,
  Line,
  LineChart,
  ReferenceLine,
  ResponsiveContainer,
  XAxis,
  YAxis,
} from 'recharts';
import { AXIS, CLAIM_LINE, GRID, roundAxis } from '@/kit/chart-style';

/** A line of the chart: its words, its steps, and whether it is drawn as dashes. */
export interface MeanLine {
  name: string;
  steps: readonly SpreadAtMean[];
  dashed?: boolean;
}

/** Spread against the mean voltage of the cells, with the line from which balancing would act. */
export function MeanChart({ lines, balanceMv }: { lines: readonly MeanLine[]; balanceMv: number }) {
  const all = lines.flatMap(({ steps }) => steps);
  if (all.length === 0) return null;
  const x = roundAxis(
    Math.min(...all.map(({ meanV }) => meanV)) - 0.02,
    Math.max(...all.map(({ meanV }) => meanV)) + 0.02,
    7,
  );
  const y = roundAxis(0, Math.max(balanceMv * 1.2, ...all.map(({ medianMv }) => medianMv)), 5);
  return (
    <div
      className="h-72"
      role="img"
      aria-label={lines
        .map(
          ({ name, steps }) =>
            `${name}: ${steps.map(({ meanV, medianMv }) => `${medianMv.toFixed(1)} mV at ${meanV.toFixed(2)} V`).join(', ')}`,
        )
        .join('; ')}
    >
      <ResponsiveContainer width="100%" height="100%">
        <LineChart margin={{ top: 8, right: 14, bottom: 18, left: 0 }}>
          <CartesianGrid {...GRID} />
          <XAxis
            {...AXIS}
            type="number"
            dataKey="meanV"
            domain={x.domain}
            ticks={x.ticks}
            allowDuplicatedCategory={false}
            tickFormatter={(v: number) => v.toFixed(Math.max(1, x.decimals))}
            label={{
              value: 'mean of the cells / V',
              position: 'insideBottom',
              offset: -10,
              fill: 'var(--quiet)',
              fontSize: 12,
            }}
          />
          <YAxis
            {...AXIS}
            domain={y.domain}
            ticks={y.ticks}
            width={50}
            tickFormatter={(v: number) => v.toFixed(y.decimals)}
            label={{ value: 'mV', position: 'insideTopLeft', fill: 'var(--quiet)', fontSize: 12 }}
          />
          <ReferenceLine y={balanceMv} {...CLAIM_LINE} />
          {lines.map(({ name, steps, dashed }) => (
            <Line
              key={name}
              name={name}
              data={[...steps]}
              dataKey="medianMv"
              stroke="var(--curve)"
              strokeDasharray={dashed ? '4 3' : undefined}
              strokeWidth={1.6}
              dot={{ r: 2.4, fill: 'var(--curve)', strokeDasharray: 'none' }}
              isAnimationActive={false}
            />
          ))}
        </LineChart>
      </ResponsiveContainer>
    </div>
  );
}
