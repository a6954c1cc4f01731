import type { RateSet } from '@dusk-tally/lab/verdicts';
import { formatNumber } from '@dusk-tally/core/units';
import { Link } from '@/kit/link';
import { Table } from '@/kit/table';

/** Share of the height a bar of the capacity keeps, so that small differences show. */
const barOf = (value: number, most: number) => Math.max(4, 100 - 12 * (100 - (100 * value) / most));

/** What cells of this model gave at different rates: capacity, energy, temperature. */
export function RateSetPanel({ sets }: { sets: RateSet[] }) {
  if (sets.length === 0) return null;
  return (
    <section className="panel mt-4 p-4" aria-label="Rate sets">
      <h2 className="font-semibold">Rate sets of this model</h2>
      <p className="text-quiet">
        Cells that ran at several rates. From them the model’s own exponent is fitted, which
        replaces the house default when results are carried to the claim’s rate.
      </p>
      <Table className="mt-2 w-full max-w-4xl">
        <thead>
          <tr>
            <th>Cell</th>
            <th className="num">Rate / It</th>
            <th className="num">Current / A</th>
            <th className="num">Capacity / Ah</th>
            <th aria-hidden />
            <th className="num">Energy / Wh</th>
            <th className="num">Mean / °C</th>
            <th className="num">Highest / °C</th>
          </tr>
        </thead>
        <tbody>
          {sets.map(({ cell, points }) =>
            points.map((point, i) => (
              <tr key={point.runId}>
                <td>
                  {i === 0 && (
                    <Link href={`/cells/${cell}`} className="underline">
                      {cell}
                    </Link>
                  )}
                </td>
                <td className="num">
                  <Link href={`/runs/${point.runId}`} className="hover:underline">
                    {point.rateIt.toFixed(3)}
                  </Link>
                </td>
                <td className="num">{formatNumber(point.currentA, 2)}</td>
                <td className="num">{formatNumber(point.capacityAh, 3)}</td>
                <td className="w-32">
                  <div className="h-2.5 bg-wash" aria-hidden>
                    <div
                      className="h-full bg-curve"
                      style={{
                        width: `${barOf(point.capacityAh, Math.max(...points.map((p) => p.capacityAh)))}%`,
                      }}
                    />
                  </div>
                </td>
                <td className="num">
                  {point.energyWh === null ? '–' : formatNumber(point.energyWh, 2)}
                </td>
                <td className="num">{point.meanC === null ? '–' : formatNumber(point.meanC, 1)}</td>
                <td className="num">{point.maxC === null ? '–' : formatNumber(point.maxC, 1)}</td>
              </tr>
            )),
          )}
        </tbody>
      </Table>
    </section>
  );
}
