'use client';

import type { OperatingPoint } from '@dusk-tally/core/arrivals';
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

/** How often a plan takes a lot, against how much of it is short. */
export function OcChart({ curve, marks }: { curve: OperatingPoint[]; marks: number[] }) {
  const last = curve[curve.length - 1]!.percentShort;
  const across = roundAxis(0, Math.max(last, 1), 8, true);
  const at = (share: number) =>
    curve.find((point) => point.accept <= share)?.percentShort.toFixed(1) ?? '–';
  const data = curve.map((point) => ({ x: point.percentShort, accept: 100 * point.accept }));
  return (
    <figure className="mt-2">
      <figcaption className="text-quiet">
        Chance that the lot is taken, against how much of it is short (operating characteristic)
      </figcaption>
      <div
        className="h-64"
        role="img"
        aria-label={`Operating characteristic: taken in half of the cases at ${at(0.5)} % short, in one of ten at ${at(0.1)} %.`}
      >
        <ResponsiveContainer width="100%" height="100%">
          <LineChart data={data} margin={{ top: 10, right: 16, bottom: 22, left: 4 }}>
            <CartesianGrid {...GRID} />
            <XAxis
              {...AXIS}
              type="number"
              dataKey="x"
              domain={across.domain}
              ticks={across.ticks}
              tickFormatter={(value: number) => value.toFixed(across.decimals)}
              label={{ value: 'short / %', position: 'bottom', fill: 'var(--quiet)', fontSize: 12 }}
            />
            <YAxis
              {...AXIS}
              domain={[0, 100]}
              ticks={[0, 20, 40, 60, 80, 100]}
              width={40}
              tickFormatter={(value: number) => String(value)}
              label={{
                value: 'taken / %',
                angle: -90,
                position: 'insideLeft',
                fill: 'var(--quiet)',
                fontSize: 12,
              }}
            />
            {marks.map((mark) => (
              <ReferenceLine key={mark} x={mark} {...CLAIM_LINE} />
            ))}
            <Tooltip
              contentStyle={TOOLTIP}
              formatter={(value) => [`${Number(value).toFixed(1)} %`, 'taken']}
              labelFormatter={(label) => `${Number(label).toFixed(2)} % short`}
            />
            <Line
              dataKey="accept"
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
