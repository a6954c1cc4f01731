import { lackOf } from '@dusk-tally/core/money';
import { formatNumber } from '@dusk-tally/core/units';
import type { DisputeFilePage } from '@dusk-tally/lab/disputes';
import { Link } from '@/kit/link';
import { Table } from '@/kit/table';
import { TracedFigure } from '@/kit/traced-figure';
import { Panel } from '../money-parts';
import { Trail } from './trail';

type Snapshot = DisputeFilePage['snapshot'];

const ah = (value: number): string => formatNumber(value, 2);

/** Cells below the claim with what they lack, those judged first; of held results and lower bounds nothing is said. */
function lacking({ evidence, shortAh }: Snapshot) {
  const claimAh = evidence.claimedCapacityAh;
  const judged = new Set(shortAh.map(({ number }) => number));
  return evidence.items
    .flatMap((item) =>
      item.capacity?.bound !== 'exact' || claimAh === null
        ? []
        : [
            {
              item,
              isShort: judged.has(item.number),
              ...lackOf({ capacityAh: item.capacity.value, U: item.capacity.U }, claimAh),
            },
          ],
    )
    .filter((row) => row.isShort || row.ah > 0)
    .sort((a, b) => Number(b.isShort) - Number(a.isShort));
}

type LackingRow = ReturnType<typeof lacking>[number];

function LackingRowView({ row }: { row: LackingRow }) {
  return (
    <tr className={row.isShort ? '' : 'text-quiet'}>
      <td>
        <Link href={`/cells/${row.item.number}`} className="hover:underline">
          {row.item.number}
        </Link>
      </td>
      <td>{row.item.verdicts.capacity ?? 'open'}</td>
      <td className="num">
        <TracedFigure figure={row.item.capacity} />
      </td>
      <td className="num">{ah(row.ah)}</td>
      <td className="num">
        {ah(row.lowAh)} to {ah(row.highAh)}
      </td>
    </tr>
  );
}

/** How the shortfall adds up, cell by cell, to the amount the file names. */
export function AddsUp({ snapshot, lot }: { snapshot: Snapshot; lot: string }) {
  const { shortfall, order, evidence } = snapshot;
  if (!shortfall) return null;
  const rows = lacking(snapshot);
  const sum = (key: 'ah' | 'lowAh' | 'highAh') =>
    rows.filter(({ isShort }) => isShort).reduce((total, row) => total + row[key], 0);
  const { pricedFor } = shortfall;
  return (
    <Panel title="What is lacking, and how it adds up">
      <p>
        A claimed Ah is{' '}
        <Trail href={`/lots/${lot}/money`}>
          {shortfall.perAh} {order.currency}
        </Trail>
        {pricedFor &&
          `: ${pricedFor.amount} ${order.currency} for ${pricedFor.cells} cells of ${pricedFor.ah} Ah`}
        .
      </p>
      <Table label="What each cell lacks">
        <thead>
          <tr>
            <th>Cell</th>
            <th>Claim</th>
            <th className="num">Capacity / Ah</th>
            <th className="num">Below {evidence.claimedCapacityAh} Ah by / Ah</th>
            <th className="num">between / Ah</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <LackingRowView key={row.item.number} row={row} />
          ))}
          <tr className="font-semibold">
            <td colSpan={3}>Together, of those judged not met</td>
            <td className="num">{ah(sum('ah'))}</td>
            <td className="num">
              {ah(sum('lowAh'))} to {ah(sum('highAh'))}
            </td>
          </tr>
          <tr className="font-semibold">
            <td colSpan={3}>Worth / {order.currency}</td>
            <td className="num">{shortfall.amount}</td>
            <td className="num">
              {shortfall.low} to {shortfall.high}
            </td>
          </tr>
        </tbody>
      </Table>
      <p className="mt-2 text-quiet">
        {shortfall.upperAh > shortfall.ah &&
          `${snapshot.formatVersion >= 3 ? 'All cells below the claim, with their uncertainty' : 'With those that are too close to call'}: ${ah(shortfall.upperAh)} Ah, ${shortfall.upper} ${order.currency}. `}
        The ends are those of all cells at once, as meters err together.
      </p>
    </Panel>
  );
}
