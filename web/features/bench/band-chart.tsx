'use client';

import { dischargeLine } from '@dusk-tally/core/bench';
import { medianBand } from '@dusk-tally/core/evidence';
import type { BenchRunView } from '@dusk-tally/lab/bench';
import { useMemo } from 'react';
import {
  Area,
  CartesianGrid,
  ComposedChart,
  Line,
  ResponsiveContainer,
  XAxis,
  YAxis,
} from 'recharts';
import { AXIS, GRID, roundAxis } from '@/kit/chart-style';
import { useCurves } from '@/lib/use-curves';

/** Fewer tested cells than this make no band. */
const LEAST_CELLS = 5;

/** The discharge of a run before the median of its lot. */
export function BandChart({
  points,
  kinds,
  lotId,
  lot,
}: {
  points: BenchRunView['points'];
  kinds: readonly string[];
  lotId: number;
  lot: string;
}) {
  const { data } = useCurves(lotId);
  const line = useMemo(() => dischargeLine(points, kinds), [points, kinds]);
  const band = useMemo(
    () =>
      data && data.length >= LEAST_CELLS
        ? medianBand(data.map(({ curve }) => ({ ah: curve.chargeAh, voltageV: curve.voltageV })))
        : null,
    [data],
  );
  if (!band || band.x.length < 3 || line.length < 2) return null;
  const rows = [
    ...band.x.map((ah, i) => ({
      ah,
      range: [band.median[i]! - 3 * band.spread[i]!, band.median[i]! + 3 * band.spread[i]!],
      middle: band.median[i]!,
    })),
    ...line.map(({ ah, v }) => ({ ah, v })),
  ].sort((a, b) => a.ah - b.ah);
  const volts = [...line.map(({ v }) => v), ...band.median];
  const x = roundAxis(0, Math.max(...rows.map(({ ah }) => ah)), 8, true);
  const y = roundAxis(Math.min(...volts), Math.max(...volts), 5);
  return (
    <figure className="mt-4">
      <figcaption className="mb-1">
        This discharge (line) before the median of {data!.length} tested cells of {lot} (dashes,
        band of ± 3 robust standard deviations)
      </figcaption>
      <div
        className="h-56"
        role="img"
        aria-label="Voltage against charge given, with the median band of the lot"
      >
        <ResponsiveContainer>
          <ComposedChart data={rows} margin={{ top: 6, right: 12, bottom: 18, left: 6 }}>
            <CartesianGrid {...GRID} />
            <XAxis
              {...AXIS}
              type="number"
              dataKey="ah"
              domain={x.domain}
              ticks={x.ticks}
              tickFormatter={(value: number) => value.toFixed(x.decimals)}
              label={{
                value: 'charge given / Ah',
                position: 'insideBottom',
                offset: -12,
                fill: 'var(--quiet)',
              }}
            />
            <YAxis
              {...AXIS}
              domain={y.domain}
              ticks={y.ticks}
              width={66}
              tickFormatter={(value: number) => value.toFixed(y.decimals)}
              label={{
                value: 'voltage / V',
                angle: -90,
                position: 'insideLeft',
                fill: 'var(--quiet)',
                style: { textAnchor: 'middle' },
              }}
            />
            <Area
              dataKey="range"
              stroke="none"
              fill="var(--stroke)"
              fillOpacity={0.25}
              connectNulls
              isAnimationActive={false}
            />
            <Line
              dataKey="middle"
              stroke="var(--stroke)"
              strokeDasharray="5 4"
              strokeWidth={1.3}
              dot={false}
              connectNulls
              isAnimationActive={false}
            />
            <Line
              dataKey="v"
              stroke="var(--ember)"
              strokeWidth={2.2}
              dot={false}
              connectNulls
              isAnimationActive={false}
            />
          </ComposedChart>
        </ResponsiveContainer>
      </div>
    </figure>
  );
}
