import type { TwoHumps } from '@dusk-tally/core/statistics';
import { formatNumber } from '@dusk-tally/core/units';
import type { Parting } from '@dusk-tally/core/verdicts';
import { Table } from '@/kit/table';

/** Says that a lot behaves like two, where their middles are, and what tells them apart. */
export function HumpsNote({
  humps,
  parting,
  unit,
}: {
  humps: TwoHumps;
  parting: Parting | null;
  unit: string;
}) {
  const [low, high] = humps.humps;
  const share = (value: number) => `${(100 * value).toFixed(0)} %`;
  return (
    <section className="panel border-doubt p-4" role="note" aria-label="Two lots in one">
      <p>
        Two humps rather than one: {share(low.share)} of the cells about {formatNumber(low.mean, 3)}{' '}
        {unit} (spread {formatNumber(low.sd, 3)}), {share(high.share)} about{' '}
        {formatNumber(high.mean, 3)} {unit} (spread {formatNumber(high.sd, 3)}). Two mixtures
        against one lower the information criterion by {(humps.bicOne - humps.bicTwo).toFixed(0)};
        more than 10 counts.{' '}
        {parting
          ? `The ${parting.attribute} tells them apart: ${share(parting.agreement)} of the cells lie on the side of theirs.`
          : 'Neither production date, pack, box nor channel tells them apart; be careful with the mean.'}
      </p>
      {parting && (
        <Table label={`By ${parting.attribute}`} className="mt-2 w-full">
          <thead>
            <tr>
              <th>{parting.attribute}</th>
              <th className="num">n</th>
              <th className="num">mean / {unit}</th>
              <th className="num">spread / {unit}</th>
              <th className="num">lowest / {unit}</th>
            </tr>
          </thead>
          <tbody>
            {parting.parts.map(({ of, n, mean, standardDeviation, minimum }) => (
              <tr key={of}>
                <td>{of}</td>
                <td className="num">{n}</td>
                <td className="num">{formatNumber(mean, 3)}</td>
                <td className="num">
                  {standardDeviation === null ? '–' : formatNumber(standardDeviation, 3)}
                </td>
                <td className="num">{formatNumber(minimum, 3)}</td>
              </tr>
            ))}
          </tbody>
        </Table>
      )}
    </section>
  );
}
