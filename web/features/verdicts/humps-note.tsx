import type { TwoHumps } from '@dusk-tally/core/statistics';
import { formatNumber } from '@dusk-tally/core/units';
import type { LotSpread } from '@dusk-tally/lab/verdicts';
import { Table } from '@/kit/table';

/** Every measured item, part by part. */
function Parts({ attribute, parts }: { attribute: string; parts: LotSpread['parts'] }) {
  const number = (value: number | null) => (value === null ? '–' : formatNumber(value, 3));
  return (
    <Table label={`By ${attribute}`} className="mt-2 w-full">
      <thead>
        <tr>
          <th>{attribute}</th>
          <th>Claim</th>
          <th className="num">n</th>
          <th className="num">Mean, 95 %</th>
          <th className="num">Std. dev.</th>
          <th className="num">Lowest</th>
          <th className="num">Met</th>
          <th className="num">Not met</th>
          <th className="num">Too close</th>
        </tr>
      </thead>
      <tbody>
        {parts.map(({ part, item, words, unit, summary }) => (
          <tr key={`${part} ${item}`}>
            <td>{part}</td>
            <td>
              {words} / {unit}
            </td>
            <td className="num">{summary.n}</td>
            <td className="num whitespace-nowrap">
              {number(summary.mean)}
              {summary.meanInterval && (
                <span className="block text-[0.78rem] text-quiet">
                  {number(summary.meanInterval.low)} to {number(summary.meanInterval.high)}
                </span>
              )}
            </td>
            <td className="num">{number(summary.standardDeviation)}</td>
            <td className="num">{number(summary.minimum)}</td>
            <td className="num">{summary.met}</td>
            <td className="num">{summary.notMet}</td>
            <td className="num">{summary.tooClose}</td>
          </tr>
        ))}
      </tbody>
    </Table>
  );
}

/** Says that a lot behaves like two, where their middles are, and what tells them apart. */
export function HumpsNote({
  humps,
  spread: { parting, parts },
  unit,
}: {
  humps: TwoHumps;
  spread: Pick<LotSpread, 'parting' | 'parts'>;
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
      {parting && <Parts attribute={parting.attribute} parts={parts} />}
    </section>
  );
}
