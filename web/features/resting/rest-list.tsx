import { formatWithUncertainty } from '@dusk-tally/core/units';
import type { ShelfLine } from '@dusk-tally/lab/resting';
import { REST_OUTCOMES } from '@dusk-tally/core/resting';
import { LabDay } from '@/kit/lab-time';
import { Table } from '@/kit/table';

/** What a rest lost a day, with its uncertainty. */
function Slope({ detail: { slope } }: Pick<ShelfLine, 'detail'>) {
  if (!slope) return <span className="text-quiet">–</span>;
  const { value, uncertainty } = formatWithUncertainty(slope.value, 2 * slope.standardUncertainty);
  return (
    <>
      {value} <span className="text-quiet">± {uncertainty}</span>
    </>
  );
}

/** Rests of a cell on the shelf, the newest first, with what each came to. */
export function RestList({ rests }: { rests: readonly ShelfLine[] }) {
  if (rests.length === 0) return null;
  return (
    <section className="panel overflow-x-auto p-4" aria-label="On the shelf">
      <h2 className="font-semibold">On the shelf</h2>
      <Table className="mt-1 w-full">
        <thead>
          <tr>
            <th>Full since</th>
            <th>Protocol</th>
            <th className="num">Lost / mV</th>
            <th className="num">a day / mV</th>
            <th>Came to</th>
          </tr>
        </thead>
        <tbody>
          {rests.map((rest) => {
            const { restId, fullAt, protocol, dueAt, outcome, detail } = rest;
            return (
              <tr key={restId}>
                <td>
                  <LabDay at={fullAt} />
                </td>
                <td>{protocol}</td>
                <td className="num">
                  {detail.lossV === null ? '–' : (1000 * detail.lossV).toFixed(1)}
                </td>
                <td className="num">
                  <Slope detail={detail} />
                </td>
                <td>
                  {outcome === null ? (
                    <span className="text-quiet">
                      due on <LabDay at={dueAt} />
                    </span>
                  ) : (
                    <>
                      {REST_OUTCOMES[outcome].words}
                      <span className="text-quiet">. {REST_OUTCOMES[outcome].follows}</span>
                    </>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </Table>
    </section>
  );
}
