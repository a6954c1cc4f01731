'use client';

import { formatNumber } from '@dusk-tally/core/units';
import type { LotSpread } from '@dusk-tally/lab/verdicts';
import {
  CartesianGrid,
  ResponsiveContainer,
  Scatter,
  ScatterChart,
  Tooltip,
  XAxis,
  YAxis,
} from 'recharts';
import { AXIS, GRID, roundAxis, TOOLTIP } from '@/kit/chart-style';
import { Fold } from '@/kit/fold';
import { Link } from '@/kit/link';
import { Table } from '@/kit/table';

const SUSPECTS = {
  typing: 'a slip in typing',
  channel: 'its channel',
  connection: 'its connection',
  cell: 'the cell',
};

function Outliers({ outliers }: { outliers: LotSpread['outliers'] }) {
  return (
    <section className="panel p-4" aria-label="Cells that stand out">
      <h2 className="font-semibold">Cells that stand out</h2>
      <Table label="Cells that stand out">
        <thead>
          <tr>
            <th>Cell</th>
            <th className="num">Capacity / Ah</th>
            <th className="num">Robust z</th>
            <th>Suspected</th>
            <th>Why</th>
          </tr>
        </thead>
        <tbody>
          {outliers.slice(0, 30).map(({ cell, value, z, suspect, why }) => (
            <tr key={cell}>
              <td>
                <Link href={`/cells/${cell}`} className="hover:underline">
                  {cell}
                </Link>
              </td>
              <td className="num">{formatNumber(value, 3)}</td>
              <td className="num">{formatNumber(z, 1)}</td>
              <td className="whitespace-nowrap">{SUSPECTS[suspect]}</td>
              <td className="text-quiet">{why}</td>
            </tr>
          ))}
        </tbody>
      </Table>
      {outliers.length > 30 && <p className="text-quiet">and {outliers.length - 30} more.</p>}
    </section>
  );
}

/** Values against where a normal distribution would have them: a straight line where they are normal. */
function ScoresPlot({ scores }: { scores: LotSpread['scores'] }) {
  const values = scores.map(({ value }) => value);
  const up = roundAxis(Math.min(...values), Math.max(...values), 6);
  return (
    <div className="h-72" role="img" aria-label="Normal-scores plot of the capacities">
      <ResponsiveContainer width="100%" height="100%">
        <ScatterChart margin={{ top: 10, right: 16, bottom: 26, left: 4 }}>
          <CartesianGrid {...GRID} />
          <XAxis
            {...AXIS}
            type="number"
            dataKey="score"
            domain={[-3.5, 3.5]}
            ticks={[-3, -2, -1, 0, 1, 2, 3]}
            label={{
              value: 'where a normal distribution would have it / standard deviations',
              position: 'bottom',
              fill: 'var(--quiet)',
              fontSize: 12,
            }}
          />
          <YAxis
            {...AXIS}
            type="number"
            dataKey="value"
            domain={up.domain}
            ticks={up.ticks}
            tickFormatter={(value: number) => value.toFixed(up.decimals)}
            width={56}
          />
          <Tooltip
            contentStyle={TOOLTIP}
            formatter={(value) => formatNumber(Number(value), 3)}
            cursor={false}
          />
          <Scatter data={scores} fill="var(--curve)" shape={<Mark />} isAnimationActive={false} />
        </ScatterChart>
      </ResponsiveContainer>
    </div>
  );
}

/** One value: a short upright stroke, as everywhere in the tally. */
function Mark({ cx = 0, cy = 0 }: { cx?: number; cy?: number }) {
  return <rect x={cx - 1} y={cy - 3.5} width={2} height={7} fill="var(--curve)" rx={1} />;
}

/** Which cells stand out and why, and how the capacities are distributed. */
export function SpreadView({ spread: { outliers, scores } }: { spread: LotSpread }) {
  return (
    <>
      {outliers.length > 0 && <Outliers outliers={outliers} />}
      {scores.length >= 8 && (
        <section className="panel p-4">
          <Fold title="Whether they are normally distributed">
            <ScoresPlot scores={scores} />
          </Fold>
        </section>
      )}
    </>
  );
}
