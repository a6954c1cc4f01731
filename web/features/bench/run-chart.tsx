'use client';

import type { BenchRunView } from '@dusk-tally/lab/bench';
import { useState } from 'react';
import {
  CartesianGrid,
  Line,
  LineChart,
  ReferenceArea,
  ReferenceDot,
  ResponsiveContainer,
  Tooltip,
  XAxis,
  YAxis,
} from 'recharts';
import { AXIS, GRID, roundAxis, TOOLTIP } from '@/kit/chart-style';
import { STEP_WORDS } from './words';

const SHOWN = {
  voltageV: { name: 'Voltage', unit: 'V', decimals: 3 },
  currentA: { name: 'Current', unit: 'A', decimals: 3 },
  temperatureC: { name: 'Temperature', unit: '°C', decimals: 1 },
} as const;
type Shown = keyof typeof SHOWN;

/** Steps a run went through, as stretches of time. */
function stretches(points: BenchRunView['points'], kinds: readonly string[]) {
  const list: { from: number; to: number; step: number; kind: string }[] = [];
  for (const { timeS, step } of points) {
    const last = list[list.length - 1];
    if (last?.step === step) last.to = timeS;
    else list.push({ from: last?.to ?? timeS, to: timeS, step, kind: kinds[step] ?? 'rest' });
  }
  return list;
}

const STEP_FILL: Readonly<Record<string, string>> = {
  charge: 'var(--ember)',
  discharge: 'var(--curve)',
};

/** The steps of a run behind its line; those long enough carry their names. */
function stepAreas(points: BenchRunView['points'], kinds: readonly string[]) {
  const whole = points[points.length - 1]!.timeS + 1;
  return stretches(points, kinds).map(({ from, to, step, kind }) => (
    <ReferenceArea
      key={`${step}-${from}`}
      x1={from / 3600}
      x2={to / 3600}
      fill={STEP_FILL[kind] ?? 'var(--stroke)'}
      fillOpacity={kind in STEP_FILL ? 0.09 : 0.04}
      label={
        (to - from) / whole > 0.12
          ? {
              value: STEP_WORDS[kind] ?? kind,
              fill: 'var(--quiet)',
              fontSize: 12,
              position: 'insideTop',
            }
          : undefined
      }
    />
  ));
}

/** Readings of hand meters on the line they belong to. */
const spotDots = (spots: BenchRunView['spots'], shown: Shown) =>
  spots
    .filter(({ quantity }) =>
      quantity === 'voltage' ? shown === 'voltageV' : shown === 'temperatureC',
    )
    .map(({ timeS, value }, i) => (
      <ReferenceDot
        key={i}
        x={timeS / 3600}
        y={value}
        r={5}
        fill="var(--ember)"
        stroke="var(--sheet)"
        ifOverflow="extendDomain"
      />
    ));

/** What a run’s instruments showed, with its steps behind. */
export function RunChart({
  points,
  kinds,
  spots,
}: {
  points: BenchRunView['points'];
  kinds: readonly string[];
  spots: BenchRunView['spots'];
}) {
  const [shown, setShown] = useState<Shown>('voltageV');
  const { name, unit, decimals } = SHOWN[shown];
  const drawn = points
    .filter((point) => point[shown] !== null)
    .map((point) => ({ hours: point.timeS / 3600, value: point[shown]! }));
  if (drawn.length < 2) return <p className="text-quiet">No readings yet.</p>;
  const values = drawn.map(({ value }) => value);
  const y = roundAxis(Math.min(...values), Math.max(...values), 6);
  const x = roundAxis(drawn[0]!.hours, drawn[drawn.length - 1]!.hours, 8, true);
  return (
    <div>
      <div className="mb-2 flex gap-1" role="group" aria-label="Shown">
        {(Object.keys(SHOWN) as Shown[]).map((one) => (
          <button
            key={one}
            type="button"
            aria-pressed={one === shown}
            onClick={() => setShown(one)}
            className={`rounded-sm px-3 py-1 ${one === shown ? 'bg-ember-wash font-semibold' : 'text-quiet hover:bg-wash'}`}
          >
            {SHOWN[one].name}
          </button>
        ))}
      </div>
      <div className="h-72" role="img" aria-label={`${name} against time`}>
        <ResponsiveContainer>
          <LineChart data={drawn} margin={{ top: 8, right: 12, bottom: 18, left: 6 }}>
            <CartesianGrid {...GRID} />
            {stepAreas(points, kinds)}
            <XAxis
              {...AXIS}
              type="number"
              dataKey="hours"
              domain={x.domain}
              ticks={x.ticks}
              tickFormatter={(value: number) => value.toFixed(x.decimals)}
              label={{
                value: 'time / h',
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
                value: `${name.toLowerCase()} / ${unit}`,
                angle: -90,
                position: 'insideLeft',
                fill: 'var(--quiet)',
                style: { textAnchor: 'middle' },
              }}
            />
            <Tooltip
              contentStyle={TOOLTIP}
              isAnimationActive={false}
              formatter={(value) => [`${Number(value).toFixed(decimals)} ${unit}`, name]}
              labelFormatter={(value) => `${Number(value).toFixed(3)} h`}
            />
            <Line
              dataKey="value"
              stroke="var(--curve)"
              strokeWidth={1.8}
              dot={false}
              isAnimationActive={false}
            />
            {spotDots(spots, shown)}
          </LineChart>
        </ResponsiveContainer>
      </div>
    </div>
  );
}
