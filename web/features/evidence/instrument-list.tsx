import type { Accuracy } from '@dusk-tally/core/evidence';
import type { HistoryEntry } from '@dusk-tally/lab';
import { Table } from '@/kit/table';
import { ChangeInstrument, type DescribedInstrument } from './change-instrument';
import { InstrumentForm } from './instrument-form';

const KIND_WORDS = {
  tester: 'Tester',
  acMeter: 'AC resistance meter',
  voltmeter: 'Voltmeter',
  scale: 'Scale',
  caliper: 'Caliper',
};

const OFFSET_UNIT = { tester: '', acMeter: 'mΩ', voltmeter: 'V', scale: 'g', caliper: 'mm' };

function accuracyWords(kind: keyof typeof KIND_WORDS, accuracy: unknown): string {
  if (kind === 'tester') {
    const a = accuracy as Accuracy;
    return `current ± (${a.currentGainPct} % + ${a.currentOffsetA * 1000} mA), voltage ± (${a.voltageGainPct} % + ${a.voltageOffsetV * 1000} mV)`;
  }
  const a = accuracy as { gainPct: number; offset: number };
  return `± (${a.gainPct} % + ${kind === 'voltmeter' ? `${a.offset * 1000} mV` : `${a.offset} ${OFFSET_UNIT[kind]}`})`;
}

/** What the lab measures with, how well, and until when that is known. */
export function InstrumentList({
  instruments,
  histories,
  today,
  mayLead,
}: {
  instruments: readonly DescribedInstrument[];
  histories: ReadonlyMap<number, HistoryEntry[]>;
  today: string;
  mayLead: boolean;
}) {
  return (
    <section className="panel p-4">
      <h2 className="font-semibold">Instruments</h2>
      {instruments.length === 0 && (
        <p className="text-quiet">
          None yet. Results of an instrument not described get the house default accuracy, which is
          wide.
        </p>
      )}
      {instruments.length > 0 && (
        <Table>
          <thead>
            <tr>
              <th>Name</th>
              <th>Kind</th>
              <th>Accuracy</th>
              <th>Calibrated</th>
              <th>Due</th>
              <th>
                <span className="sr-only">Change</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {instruments.map((row) => (
              <tr key={row.id}>
                <td>
                  {row.name}
                  {row.serial && (
                    <span className="block text-[0.82rem] text-quiet">{row.serial}</span>
                  )}
                </td>
                <td>{KIND_WORDS[row.kind]}</td>
                <td>{accuracyWords(row.kind, row.accuracy)}</td>
                <td className="whitespace-nowrap">{row.calibratedOn ?? '–'}</td>
                <td className="whitespace-nowrap">
                  {row.dueOn ?? '–'}
                  {row.dueOn && row.dueOn < today && (
                    <span className="ml-1 text-missed">overdue</span>
                  )}
                </td>
                <td className="text-right">
                  {mayLead && (
                    <ChangeInstrument instrument={row} history={histories.get(row.id) ?? []} />
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
      )}
      {mayLead && <InstrumentForm />}
    </section>
  );
}
