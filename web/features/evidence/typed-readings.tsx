import { READING_PURPOSES } from '@dusk-tally/core/arrivals';
import { Link } from '@/kit/link';
import type { cellPage } from '@dusk-tally/lab/verdicts';
import { LabMoment } from '@/kit/lab-time';
import { QUANTITY_WORDS } from '@/kit/quantity-words';
import { Table } from '@/kit/table';
import type { ReactNode } from 'react';

type Reading = Awaited<ReturnType<typeof cellPage>>['readings'][number];

/** What was typed of a cell, newest first, with who, when and by which instrument. */
export function TypedReadings({
  readings,
  acts,
}: {
  readings: readonly Reading[];
  /** What can be done with one. */
  acts: (reading: Reading) => ReactNode;
}) {
  if (readings.length === 0) return null;
  return (
    <section className="panel p-4">
      <h2 className="font-semibold">Typed readings</h2>
      <Table className="mt-1 w-full">
        <thead>
          <tr>
            <th>What</th>
            <th className="num">Value</th>
            <th>By</th>
            <th>Instrument</th>
            <th>When</th>
          </tr>
        </thead>
        <tbody>
          {readings.map((reading) => (
            <tr key={reading.id}>
              <td>
                {QUANTITY_WORDS[reading.kind]}
                {reading.kind === 'openCircuitVoltage' && (
                  <span className="block text-[0.78rem] text-quiet">
                    {READING_PURPOSES[reading.purpose].words}
                  </span>
                )}
              </td>
              <td className="num">
                {reading.value === null ? 'taken back' : reading.value.toFixed(reading.decimals)}
                {reading.repeats && (
                  <span className="block text-[0.78rem] text-quiet">
                    median of {reading.repeats.join(', ')}
                  </span>
                )}
              </td>
              <td>{reading.person}</td>
              <td>
                {reading.handRunId === null ? (
                  (reading.instrument ?? 'not described')
                ) : (
                  <Link href={`/bench/runs/${reading.handRunId}`} className="underline">
                    hand log
                  </Link>
                )}
                {reading.keptDespite && (
                  <span className="block text-[0.82rem] text-doubt">
                    Asked: {reading.keptDespite} Kept.
                  </span>
                )}
                {acts(reading)}
              </td>
              <td className="whitespace-nowrap">
                <LabMoment at={reading.at} />
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
    </section>
  );
}
