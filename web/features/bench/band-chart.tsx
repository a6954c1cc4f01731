'use client';

import { medianBand } from '@dusk-tally/core/evidence';
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

/** A discharge before the median of its lot; one read by hand is shown without a median, too. */
export function BandChart({
  line,
  lotId,
  lot,
  isDotted = false,
}: {
  /** Charge given, Ah, and voltage, V. */
  line: readonly { ah: number; v: number }[];
  lotId: number;
  lot: string;
  /** Points somebody read, each a dot. */
  isDotted?: boolean;
}) {
  const { data } = useCurves(lotId);
  const band = useMemo(
    () =>
      data && data.length >= LEAST_CELLS
        ? medianBand(data.map(({ curve }) => ({ ah: curve.chargeAh, voltageV: curve.voltageV })))
        : null,
    [data],
  );
  const hasBand = band !== null && band.x.length >= 3;
  if (line.length < (isDotted ? 1 : 2) || !(hasBand || isDotted)) return null;
  const volts = [...line.map(({ v }) => v), ...(hasBand ? band.median : [])];
  const y = roundAxis(Math.min(...volts), Math.max(...volts), 5);
  const [lowV, highV] = y.domain;
  // A band that is wide where curves end would press all others together.
  const shown = (v: number) => Math.min(highV, Math.max(lowV, v));
  const rows = [
    ...(hasBand
      ? band.x.map((ah, i) => ({
          ah,
          range: [
            shown(band.median[i]! - 3 * band.spread[i]!),
            shown(band.median[i]! + 3 * band.spread[i]!),
          ],
          middle: band.median[i]!,
        }))
      : []),
    ...line.map(({ ah, v }) => ({ ah, v })),
  ].sort((a, b) => a.ah - b.ah);
  const x = roundAxis(0, Math.max(...rows.map(({ ah }) => ah)), 8, true);
  return (
    <figure className="mt-4">
      <figcaption className="mb-1">
        {hasBand
          ? `This discharge (${isDotted ? 'dots' : 'line'}) before the median of ${data!.length} tested cells of ${lot} (dashes, band of ± 3 robust standard deviations)`
          : 'This discharge, point by point'}
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
              strokeWidth={isDotted ? 1 : 2.2}
              dot={isDotted ? { r: 4, fill: 'var(--ember)' } : false}
              connectNulls
              isAnimationActive={false}
            />
          </ComposedChart>
        </ResponsiveContainer>
      </div>
    </figure>
  );
}
