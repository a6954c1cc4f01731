'use client';

import { type Curve, decodeCurve } from '@dusk-tally/core/evidence';
import { useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import {
  Brush,
  CartesianGrid,
  ComposedChart,
  Line,
  ReferenceArea,
  ReferenceLine,
  ResponsiveContainer,
  Tooltip,
  XAxis,
  YAxis,
} from 'recharts';
import { Button } from '@/kit/button';
import { AXIS, CLAIM_LINE, GRID, roundAxis, TOOLTIP } from '@/kit/chart-style';
import { Problem } from '@/kit/page';

interface Point {
  h: number;
  v: number;
  a: number;
}

async function fetchTrace(
  runId: number,
  range: { fromS: number; toS: number } | null,
): Promise<Curve> {
  const query = new URLSearchParams({ points: '1200' });
  if (range) {
    query.set('from', String(range.fromS));
    query.set('to', String(range.toS));
  }
  const response = await fetch(`/api/runs/${runId}/trace?${query}`);
  if (!response.ok) throw new Error('The trace could not be fetched. Reload to try again.');
  return decodeCurve(new Uint8Array(await response.arrayBuffer())).curve;
}

/** The whole log of a run: voltage, current, and the part its figures were read from. Brush to zoom in. */
export function TraceChart({
  runId,
  span,
  cutoffV,
  durationS,
}: {
  runId: number;
  span: { fromS: number; toS: number } | null;
  cutoffV: number;
  durationS: number;
}) {
  const [range, setRange] = useState<{ fromS: number; toS: number } | null>(null);
  const [brushed, setBrushed] = useState<{ fromS: number; toS: number } | null>(null);
  const { data, error } = useQuery({
    queryKey: ['trace', runId, range],
    queryFn: () => fetchTrace(runId, range),
    placeholderData: (old) => old,
  });
  const points = useMemo(
    (): Point[] =>
      data
        ? Array.from(data.timeS, (t, i) => ({
            h: t / 3600,
            v: data.voltageV[i]!,
            a: data.currentA[i]!,
          }))
        : [],
    [data],
  );
  if (error) return <Problem>{error.message}</Problem>;
  const lowest = points.reduce((low, point) => Math.min(low, point.v), cutoffV);
  const highest = points.reduce((high, point) => Math.max(high, point.v), cutoffV);
  const up = roundAxis(lowest, highest, 6);
  const across = roundAxis(points[0]?.h ?? 0, points[points.length - 1]?.h ?? 1, 9, true);
  const inMinutes = durationS < 3 * 3600;
  const clock = (h: number) => (inMinutes ? `${(h * 60).toFixed(1)} min` : `${h.toFixed(3)} h`);
  return (
    <div>
      <div
        className="h-80"
        role="figure"
        aria-label={`Voltage and current of the run against time, cut-off ${cutoffV} V`}
      >
        <ResponsiveContainer width="100%" height="100%">
          <ComposedChart data={points} margin={{ top: 10, right: 4, bottom: 4, left: 4 }}>
            <CartesianGrid {...GRID} />
            {span && (
              <ReferenceArea
                yAxisId="v"
                x1={span.fromS / 3600}
                x2={span.toS / 3600}
                fill="var(--ember)"
                fillOpacity={0.07}
                ifOverflow="hidden"
              />
            )}
            <XAxis
              {...AXIS}
              type="number"
              dataKey="h"
              domain={across.domain}
              ticks={across.ticks}
              tickFormatter={(h: number) =>
                inMinutes
                  ? (h * 60).toFixed(across.decimals > 1 ? 1 : 0)
                  : h.toFixed(across.decimals)
              }
            />
            <YAxis
              {...AXIS}
              yAxisId="v"
              domain={up.domain}
              ticks={up.ticks}
              width={52}
              tickFormatter={(v: number) => v.toFixed(Math.max(1, up.decimals))}
              label={{ value: 'V', position: 'insideTopLeft', fill: 'var(--quiet)', fontSize: 12 }}
            />
            <YAxis
              {...AXIS}
              yAxisId="a"
              orientation="right"
              width={52}
              label={{ value: 'A', position: 'insideTopRight', fill: 'var(--quiet)', fontSize: 12 }}
            />
            <Line
              yAxisId="a"
              dataKey="a"
              name="current / A"
              stroke="var(--strong-rule)"
              strokeWidth={1}
              strokeDasharray="3 2"
              dot={false}
              isAnimationActive={false}
              type="stepAfter"
            />
            <Line
              yAxisId="v"
              dataKey="v"
              name="voltage / V"
              stroke="var(--curve)"
              strokeWidth={1.8}
              dot={false}
              isAnimationActive={false}
            />
            <ReferenceLine
              yAxisId="v"
              y={cutoffV}
              {...CLAIM_LINE}
              label={{
                value: `cut-off ${cutoffV} V`,
                fill: 'var(--ember)',
                fontSize: 12,
                position: 'insideBottomLeft',
              }}
            />
            <Tooltip
              contentStyle={TOOLTIP}
              labelFormatter={(h) => clock(Number(h))}
              formatter={(value) => Number(value).toFixed(3)}
            />
            <Brush
              dataKey="h"
              height={22}
              stroke="var(--strong-rule)"
              fill="var(--sheet)"
              tickFormatter={(h: number) => clock(h)}
              onChange={({ startIndex, endIndex }) => {
                const [from, to] = [points[startIndex ?? 0], points[endIndex ?? points.length - 1]];
                if (from && to) setBrushed({ fromS: from.h * 3600, toS: to.h * 3600 });
              }}
            />
          </ComposedChart>
        </ResponsiveContainer>
      </div>
      <div className="mt-1 flex items-center gap-2 text-[0.82rem] text-quiet">
        <span>
          {inMinutes ? 'Time / min.' : 'Time / h.'} Line: voltage. Dashes: current, discharge
          negative. Shaded: the part the figures are read from.
        </span>
        <Button
          look="bare"
          className="ml-auto"
          disabled={!brushed}
          onClick={() => {
            setRange(brushed);
            setBrushed(null);
          }}
        >
          Draw this part from the samples
        </Button>
        {range && (
          <Button look="bare" onClick={() => setRange(null)}>
            Whole run
          </Button>
        )}
      </div>
    </div>
  );
}
