'use client';

import type { Bin } from '@dusk-tally/core/statistics';
import {
  Bar,
  BarChart,
  CartesianGrid,
  ReferenceArea,
  ReferenceLine,
  ResponsiveContainer,
  Tooltip,
  XAxis,
  YAxis,
} from 'recharts';
import { AXIS, CLAIM_LINE, claimLabel, GRID, roundAxis, TOOLTIP } from '@/kit/chart-style';

/** How a figure spreads over the lot, with the claim and the width in which no verdict falls. */
export function ItemChart({
  bins,
  limit,
  band,
  unit,
}: {
  bins: Bin[];
  limit: number;
  band: number | null;
  unit: string;
}) {
  const step = bins[0]!.to - bins[0]!.from;
  const decimals = Math.max(0, -Math.floor(Math.log10(step) + 1e-9));
  const edge = (value: number) => value.toFixed(decimals);
  const low = Math.min(bins[0]!.from, limit - (band ?? 0)) - step / 2;
  const high = Math.max(bins[bins.length - 1]!.to, limit + (band ?? 0)) + step / 2;
  const across = roundAxis(low, high, 7, true);
  const data = bins.map((bin) => ({
    x: (bin.from + bin.to) / 2,
    count: bin.count,
    range: `${edge(bin.from)} to ${edge(bin.to)} ${unit}`,
  }));
  const share = (bins.length * step) / (high - low);
  return (
    <div
      className="h-64"
      role="img"
      aria-label={`Histogram: ${data.map((bar) => `${bar.count} from ${bar.range}`).join('; ')}. Claim ${limit} ${unit}.`}
    >
      <ResponsiveContainer width="100%" height="100%">
        <BarChart
          data={data}
          margin={{ top: 14, right: 16, bottom: 22, left: 0 }}
          barCategoryGap={1}
          maxBarSize={Math.max(4, (760 * share) / bins.length)}
        >
          <CartesianGrid {...GRID} />
          <XAxis
            {...AXIS}
            type="number"
            dataKey="x"
            domain={across.domain}
            ticks={across.ticks}
            tickFormatter={(v: number) => v.toFixed(across.decimals)}
            label={{
              value: unit,
              position: 'bottom',
              offset: 4,
              fill: 'var(--quiet)',
              fontSize: 12,
            }}
          />
          <YAxis {...AXIS} allowDecimals={false} width={36} />
          {band !== null && (
            <ReferenceArea
              x1={limit - band}
              x2={limit + band}
              fill="var(--ember)"
              fillOpacity={0.13}
            />
          )}
          <Bar dataKey="count" fill="var(--curve)" isAnimationActive={false} />
          <ReferenceLine x={limit} {...CLAIM_LINE} label={claimLabel('claim')} />
          <Tooltip
            cursor={{ fill: 'var(--wash)' }}
            contentStyle={TOOLTIP}
            labelFormatter={(_, entries) =>
              (entries[0]?.payload as { range?: string } | undefined)?.range ?? ''
            }
          />
        </BarChart>
      </ResponsiveContainer>
    </div>
  );
}
