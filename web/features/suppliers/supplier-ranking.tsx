import type { SupplierRecord, SupplierRecords } from '@dusk-tally/lab/records';
import { Link } from '@/kit/link';
import { Table } from '@/kit/table';
import { ShareLine } from './share-line';
import { amount, lotsWords, marginWords, percent } from './words';

function apartWords(alikeTo: readonly string[]): string | null {
  if (alikeTo.length === 0) return null;
  const named = alikeTo.slice(0, 3).join(', ');
  return `cannot be told apart from ${named}${alikeTo.length > 3 ? ` and ${alikeTo.length - 3} more` : ''}`;
}

function Row({ record, mean }: { record: SupplierRecord; mean: number | null }) {
  const { share, lots, cells, margin } = record;
  const isJudged = share !== null && share.judged > 0;
  const apart = apartWords(record.alikeTo);
  return (
    <tr>
      <th scope="row" className="text-left">
        <Link href={`/suppliers/${record.id}`} className="hover:underline">
          {record.name}
        </Link>
        {record.place && <span className="block font-normal text-quiet">{record.place}</span>}
      </th>
      <td className="num whitespace-nowrap">
        {lots.length}
        <span className="block text-[0.82rem] text-quiet">{cells} cells</span>
      </td>
      <td>
        {isJudged ? (
          <>
            <ShareLine share={share} mean={mean} />
            <span className="block text-[0.85rem]">
              {percent(share.share)} ({percent(share.low)} to {percent(share.high)}),{' '}
              <span className="text-quiet">
                {share.met} of {share.judged} in {lotsWords(share.lots)}
              </span>
            </span>
            {apart && <span className="block text-[0.85rem] text-doubt">{apart}</span>}
          </>
        ) : (
          <span className="text-quiet">nothing judged yet</span>
        )}
      </td>
      <td className="num whitespace-nowrap">{margin ? marginWords(margin.mean) : '–'}</td>
      <td className="num whitespace-nowrap">
        {record.centsPerGoodKwh === null ? '–' : amount(record.centsPerGoodKwh)}
      </td>
    </tr>
  );
}

/** Suppliers by the share of claims they met, the best first. */
export function SupplierRanking({ records }: { records: SupplierRecords }) {
  const { suppliers, prior, currency, alike, isEstimated } = records;
  return (
    <section className="panel p-4" aria-label="Suppliers by what their claims came to">
      <Table label="Suppliers">
        <thead>
          <tr>
            <th>Supplier</th>
            <th className="num">Lots</th>
            <th>Claimed capacity met, with 95 % interval</th>
            <th className="num">Over claim</th>
            <th className="num">A good kWh / {currency}</th>
          </tr>
        </thead>
        <tbody>
          {suppliers.map((record) => (
            <Row key={record.id} record={record} mean={prior?.mean ?? null} />
          ))}
        </tbody>
      </Table>
      {prior && (
        <p className="mt-2 max-w-[60rem] text-[0.85rem] text-quiet">
          Few lots are drawn toward the mean of all suppliers, {percent(prior.mean)} (dashed). Cells
          of one lot are alike, so that a lot of many counts for few (ρ = {alike.toFixed(2)},{' '}
          {isEstimated ? 'from these lots' : 'house default'}). Too close to call is in neither
          count; hearsay is counted nowhere.
        </p>
      )}
    </section>
  );
}
