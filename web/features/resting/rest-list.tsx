import { formatWithUncertainty } from '@dusk-tally/core/units';
import type { RestCurve, ShelfLine } from '@dusk-tally/lab/resting';
import { REST_OUTCOMES } from '@dusk-tally/core/resting';
import { LabDay } from '@/kit/lab-time';
import { Table } from '@/kit/table';
import { LossChart } from './loss-chart';

type Told = { value: number; standardUncertainty: number } | null | undefined;

/** A value with its expanded uncertainty; a dash, with why, where there is none. */
function Known({ told, why, factor = 1 }: { told: Told; why?: string | null; factor?: number }) {
  if (!told)
    return (
      <span className="text-quiet" title={why ?? undefined}>
        –
      </span>
    );
  const { value, uncertainty } = formatWithUncertainty(
    factor * told.value,
    2 * factor * told.standardUncertainty,
  );
  return (
    <>
      {value} <span className="text-quiet">± {uncertainty}</span>
    </>
  );
}

/** Rests of a cell on the shelf, the newest first, with what each came to. */
export function RestList({
  rests,
  curves,
}: {
  rests: readonly ShelfLine[];
  curves: readonly RestCurve[];
}) {
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
            <th className="num">a month / %</th>
            <th className="num">Leaks / µA</th>
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
                  <Known told={detail.slope} />
                </td>
                <td className="num">
                  <Known told={detail.monthly} why={detail.monthlyRefused} />
                </td>
                <td className="num">
                  <Known told={detail.leakageUa} why={detail.monthlyRefused} />
                </td>
                <td>
                  {outcome === null ? (
                    <span className="text-quiet">
                      due on <LabDay at={dueAt} />
                    </span>
                  ) : (
                    <>
                      {REST_OUTCOMES[outcome].words}
                      {detail.retention && (
                        <>
                          , kept <Known told={detail.retention} factor={100} /> %
                        </>
                      )}
                      <span className="text-quiet">. {REST_OUTCOMES[outcome].follows}</span>
                    </>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </Table>
      {rests[0]!.detail.monthlyRefused && (
        <p className="text-quiet">No loss a month is told: {rests[0]!.detail.monthlyRefused}</p>
      )}
      <LossChart curves={curves} title="This cell" />
    </section>
  );
}
