'use client';

import { averageSampleNumber, type SequentialPlan } from '@dusk-tally/core/arrivals';
import { useMemo } from 'react';
import {
  CartesianGrid,
  Line,
  LineChart,
  ReferenceLine,
  ResponsiveContainer,
  Tooltip,
  XAxis,
  YAxis,
} from 'recharts';
import { AXIS, CLAIM_LINE, GRID, roundAxis, TOOLTIP } from '@/kit/chart-style';

/** How many tests a plan that stops early expects, beside the fixed plan of the same risks. */
export function AsnChart({ plan, marks }: { plan: SequentialPlan; marks: readonly number[] }) {
  const points = useMemo(() => averageSampleNumber(plan), [plan]);
  const across = roundAxis(0, Math.max(1, points[points.length - 1]!.percentShort), 8, true);
  const up = roundAxis(0, plan.sampleSize, 5);
  const least = points[0]!.tests;
  const most = Math.max(...points.map(({ tests }) => tests));
  return (
    <figure className="mt-4">
      <figcaption className="text-quiet">
        Tests expected, against how much of the lot is short; the fixed plan of the same risks tests{' '}
        {plan.sampleSize} (dashed)
      </figcaption>
      <div
        className="h-56"
        role="img"
        aria-label={`Tests expected: ${least.toFixed(0)} where none is short, at most ${most.toFixed(0)}; the fixed plan tests ${plan.sampleSize}.`}
      >
        <ResponsiveContainer width="100%" height="100%">
          <LineChart data={points} margin={{ top: 10, right: 16, bottom: 22, left: 4 }}>
            <CartesianGrid {...GRID} />
            <XAxis
              {...AXIS}
              type="number"
              dataKey="percentShort"
              domain={across.domain}
              ticks={across.ticks}
              tickFormatter={(value: number) => value.toFixed(across.decimals)}
              label={{ value: 'short / %', position: 'bottom', fill: 'var(--quiet)', fontSize: 12 }}
            />
            <YAxis
              {...AXIS}
              domain={up.domain}
              ticks={up.ticks}
              width={40}
              tickFormatter={(value: number) => value.toFixed(up.decimals)}
              label={{
                value: 'tests',
                angle: -90,
                position: 'insideLeft',
                fill: 'var(--quiet)',
                fontSize: 12,
              }}
            />
            <ReferenceLine y={plan.sampleSize} stroke="var(--stroke)" strokeDasharray="5 4" />
            {marks.map((mark) => (
              <ReferenceLine key={mark} x={mark} {...CLAIM_LINE} />
            ))}
            <Tooltip
              contentStyle={TOOLTIP}
              formatter={(value) => [Number(value).toFixed(1), 'tests expected']}
              labelFormatter={(label) => `${Number(label).toFixed(2)} % short`}
            />
            <Line
              dataKey="tests"
              stroke="var(--curve)"
              strokeWidth={2}
              dot={false}
              isAnimationActive={false}
            />
          </LineChart>
        </ResponsiveContainer>
      </div>
    </figure>
  );
}
