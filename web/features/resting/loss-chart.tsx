'use client';

import type { RestCurve } from '@dusk-tally/lab/resting';
import {
  CartesianGrid,
  LabelList,
  Line,
  LineChart,
  ResponsiveContainer,
  XAxis,
  YAxis,
} from 'recharts';
import { AXIS, GRID, roundAxis } from '@/kit/chart-style';

/** Losses against days since the charge; who loses faster than the lot is named. */
export function LossChart({ curves, title }: { curves: readonly RestCurve[]; title: string }) {
  const drawn = curves.filter(({ points }) => points.length > 1);
  if (drawn.length === 0) return null;
  const all = drawn.flatMap(({ points }) => points);
  const x = roundAxis(0, Math.max(...all.map(({ days }) => days)), 8, true);
  const y = roundAxis(0, Math.max(1, ...all.map(({ lostMv }) => lostMv)), 5);
  const fast = drawn.filter(({ isFastLoser }) => isFastLoser).map(({ cell }) => cell);
  return (
    <figure>
      <figcaption className="mb-1">
        {title}: lost since the first day, against days since the charge
        {fast.length > 0 && (
          <span className="text-missed">. Faster than the lot: {fast.join(', ')}</span>
        )}
      </figcaption>
      <div
        className="h-64"
        role="img"
        aria-label={`Losses of ${drawn.length} ${drawn.length === 1 ? 'rest' : 'rests'} against days${fast.length > 0 ? `; faster than the lot: ${fast.join(', ')}` : ''}`}
      >
        <ResponsiveContainer>
          <LineChart margin={{ top: 8, right: 84, bottom: 20, left: 6 }}>
            <CartesianGrid {...GRID} />
            <XAxis
              {...AXIS}
              type="number"
              dataKey="days"
              domain={x.domain}
              ticks={x.ticks}
              allowDuplicatedCategory={false}
              tickFormatter={(value: number) => value.toFixed(x.decimals)}
              label={{
                value: 'days since the charge',
                position: 'insideBottom',
                offset: -12,
                fill: 'var(--quiet)',
              }}
            />
            <YAxis
              {...AXIS}
              domain={y.domain}
              ticks={y.ticks}
              width={60}
              tickFormatter={(value: number) => value.toFixed(y.decimals)}
              label={{
                value: 'lost / mV',
                angle: -90,
                position: 'insideLeft',
                fill: 'var(--quiet)',
                style: { textAnchor: 'middle' },
              }}
            />
            {drawn.map(({ restId, cell, isFastLoser, points }) => (
              <Line
                key={restId}
                data={points}
                dataKey="lostMv"
                stroke={isFastLoser ? 'var(--missed)' : 'var(--stroke)'}
                strokeWidth={isFastLoser ? 2.2 : 1.1}
                dot={{
                  r: isFastLoser ? 3.5 : 2,
                  fill: isFastLoser ? 'var(--missed)' : 'var(--stroke)',
                }}
                isAnimationActive={false}
              >
                {isFastLoser && (
                  <LabelList
                    dataKey="lostMv"
                    content={({ x: atX, y: atY, index }) =>
                      index === points.length - 1 ? (
                        <text x={Number(atX) + 8} y={Number(atY) + 4} fill="var(--missed)">
                          {cell}
                        </text>
                      ) : null
                    }
                  />
                )}
              </Line>
            ))}
          </LineChart>
        </ResponsiveContainer>
      </div>
    </figure>
  );
}

/** One picture a lot. */
export function LossCharts({ curves }: { curves: readonly RestCurve[] }) {
  const lots = [...new Set(curves.map(({ lot }) => lot))];
  return lots.map((lot) => (
    <section key={lot} className="panel mt-4 p-4 empty:hidden" aria-label={`Losses of ${lot}`}>
      <LossChart curves={curves.filter((one) => one.lot === lot)} title={lot} />
    </section>
  ));
}
