import type { SupplierRecord } from '@dusk-tally/lab/records';
import { formatNumber } from '@dusk-tally/core/units';
import { Table } from '@/kit/table';
import { ShareLine } from './share-line';
import { amount, lotsWords, marginWords, percent } from './words';

const countWords = (counted: { count: number; of: number } | null): string =>
  counted === null ? 'not known' : `${counted.count} of ${counted.of}`;

/** What is known of a supplier over all its lots. */
export function SupplierFacts({
  record,
  mean,
  currency,
}: {
  record: SupplierRecord;
  mean: number | null;
  currency: string;
}) {
  const { share, margin, daysToDeliver, ageMonths, expected, perModel } = record;
  const rows: [string, string][] = [
    [
      'Capacity over claim, mean of its lots',
      margin === null
        ? 'not known'
        : `${marginWords(margin.mean)}${margin.spread === null ? '' : `, lots spread by ${formatNumber(100 * margin.spread, 1)} %`} (${lotsWords(margin.lots)})`,
    ],
    ['Dead or dangerous on arrival', countWords(record.dead)],
    ['Codes that stand on another cell', countWords(record.copies)],
    [
      'Age on arrival, middle lot',
      ageMonths === null ? 'not known' : `${formatNumber(ageMonths, 0)} months`,
    ],
    [
      'Days from order to arrival',
      daysToDeliver === null
        ? 'not known'
        : `${formatNumber(daysToDeliver.mean, 0)} (${lotsWords(daysToDeliver.lots)})`,
    ],
    [
      'A kWh in good cells cost',
      record.centsPerGoodKwh === null
        ? 'not known'
        : `${amount(record.centsPerGoodKwh)} ${currency}`,
    ],
    [
      'Of the claimed energy, in good cells of the next lot',
      expected === null
        ? 'not known'
        : `${percent(expected.good)} (${percent(expected.low)} to ${percent(expected.high)}), from ${lotsWords(expected.ownLots)} of its own`,
    ],
  ];
  return (
    <section className="panel p-4" aria-label="What is known">
      <h2 className="font-semibold">What is known</h2>
      {share && share.judged > 0 ? (
        <div className="my-2">
          <ShareLine share={share} mean={mean} width={420} />
          <p>
            {percent(share.share)} of claimed capacities met, between {percent(share.low)} and{' '}
            {percent(share.high)}: {share.met} of {share.judged} in {lotsWords(share.lots)}
            {share.lots < 3 && ', which is few'}.
          </p>
          {record.alikeTo.length > 0 && (
            <p className="text-doubt">It cannot be told apart from {record.alikeTo.join(', ')}.</p>
          )}
        </div>
      ) : (
        <p className="my-2 text-quiet">No capacity of its lots was judged yet.</p>
      )}
      <Table label="What is known">
        <tbody>
          {rows.map(([what, told]) => (
            <tr key={what}>
              <td>{what}</td>
              <td className={told === 'not known' ? 'text-quiet' : ''}>{told}</td>
            </tr>
          ))}
          {perModel.length > 1 &&
            perModel.map(({ model, share: own }) => (
              <tr key={model}>
                <td>Met, {model}</td>
                <td>
                  {percent(own.share)} ({percent(own.low)} to {percent(own.high)}), {own.met} of{' '}
                  {own.judged}
                </td>
              </tr>
            ))}
        </tbody>
      </Table>
    </section>
  );
}
