import { GATE_WORDS } from '@dusk-tally/core/arrivals';
import type { LotListRow } from '@dusk-tally/lab/verdicts';
import Link from 'next/link';
import { STEP_NAMES } from './step-words';
import { TallyThumb } from '@/kit/tally-strip';
import { Table } from '@/kit/table';

/** What keeps cells from the bench first, else which steps are open. */
function arrivalWords({ gates, steps }: LotListRow['arrival']): string {
  const held = gates
    .filter(({ gate }) => gate !== 'ready' && gate !== 'open')
    .map(({ gate, count }) => `${count} ${GATE_WORDS[gate]}`);
  const open = steps.filter(({ state }) => state === 'open' || state === 'begun');
  const rest =
    open.length === 0
      ? 'complete'
      : `open: ${open.map(({ step }) => STEP_NAMES[step].toLowerCase()).join(', ')}`;
  return [...held, rest].join('; ');
}

/** Lots as rows, each with its tally. */
export function LotRows({ heads }: { heads: LotListRow[] }) {
  return (
    <Table>
      <thead>
        <tr>
          <th>Lot</th>
          <th>Supplier</th>
          <th>Arrived</th>
          <th className="num">Cells</th>
          <th className="num">Tested</th>
          <th>Arrival</th>
          <th>Tally</th>
        </tr>
      </thead>
      <tbody>
        {heads.map(({ lot, supplier, model, strokes, tested, arrival }) => (
          <tr key={lot.id} className="hover:bg-wash">
            <td>
              <Link href={`/lots/${lot.code}`} className="font-medium hover:underline">
                {lot.title}
              </Link>
              <span className="block text-[0.82rem] text-quiet">
                {lot.code}, {model.name}
              </span>
            </td>
            <td>{supplier.name}</td>
            <td className="whitespace-nowrap">{lot.arrivedOn ?? '–'}</td>
            <td className="num">{lot.quantity}</td>
            <td className="num">{tested}</td>
            <td className="max-w-56 text-[0.85rem]">
              <Link href={`/lots/${lot.code}/arrival`} className="hover:underline">
                {lot.cancelledAt ? 'called off' : arrivalWords(arrival)}
              </Link>
            </td>
            <td className="w-[270px]">
              <TallyThumb strokes={strokes} width={260} />
            </td>
          </tr>
        ))}
      </tbody>
    </Table>
  );
}
