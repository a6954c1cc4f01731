'use client';

import type { Leaders } from '@dusk-tally/core/evidence';
import {
  Bar,
  BarChart,
  CartesianGrid,
  ReferenceLine,
  ResponsiveContainer,
  XAxis,
  YAxis,
} from 'recharts';
import { AXIS, CLAIM_LINE, GRID } from '@/kit/chart-style';

/** Share of the time each cell is the highest, upwards, and the lowest, downwards. */
export function LeaderBars({ leaders, names }: { leaders: Leaders; names: readonly string[] }) {
  const rows = names.map((name, c) => ({
    name: name.replace(/^.*-0*/, ''),
    highest: 100 * leaders.highest[c]!,
    lowest: -100 * leaders.lowest[c]!,
  }));
  const most = Math.max(50, ...rows.flatMap((row) => [row.highest, -row.lowest]));
  const top = most > 55 ? 100 : 60;
  return (
    <div
      className="h-72"
      role="img"
      aria-label={`Highest and lowest for how much of the time: ${names.map((name, c) => `${name} ${Math.round(100 * leaders.highest[c]!)} and ${Math.round(100 * leaders.lowest[c]!)} %`).join(', ')}`}
    >
      <ResponsiveContainer width="100%" height="100%">
        <BarChart data={rows} stackOffset="sign" margin={{ top: 6, right: 6, bottom: 0, left: 0 }}>
          <CartesianGrid {...GRID} />
          <XAxis
            {...AXIS}
            dataKey="name"
            interval={0}
            angle={-90}
            textAnchor="end"
            height={34}
            tick={{ ...AXIS.tick, fontSize: 11 }}
          />
          <YAxis
            {...AXIS}
            width={48}
            domain={[-top, top]}
            ticks={top > 60 ? [-top, -50, 0, 50, top] : [-50, 0, 50]}
            tickFormatter={(value: number) => `${Math.abs(value)} %`}
          />
          <ReferenceLine y={50} {...CLAIM_LINE} />
          <ReferenceLine y={-50} {...CLAIM_LINE} />
          <ReferenceLine y={0} stroke="var(--strong-rule)" />
          <Bar dataKey="highest" stackId="a" fill="var(--curve)" isAnimationActive={false} />
          <Bar dataKey="lowest" stackId="a" fill="var(--stroke)" isAnimationActive={false} />
        </BarChart>
      </ResponsiveContainer>
    </div>
  );
}
