import type { ReadingPurpose } from '@dusk-tally/core/arrivals';
import type { ReadingKind, ReadingRow, Transaction } from '@dusk-tally/store';
import { z } from 'zod';
import { type Lab, LabError, question } from '../shared';

/** Where a reading stands: of one cell, of one kind, voltages also by what they were taken for. */
interface Place {
  cellId: number;
  kind: ReadingKind;
  purpose: ReadingPurpose;
}

const placeOf = ({ cellId, kind, purpose }: Place): string =>
  `${cellId} ${kind} ${kind === 'openCircuitVoltage' ? purpose : ''}`;

/** A reading as somebody else typed it. */
export interface ReadingBeside {
  cellId: number;
  kind: ReadingKind;
  purpose: ReadingPurpose;
  /** Null where it was taken back. */
  value: number | null;
  decimals: number;
  repeats: number[] | null;
  clientKey: string;
  person: string;
  at: Date;
}

type Typed = Place & { over?: string | null; value: number | null; clientKey: string };

async function beside(
  lab: Lab,
  rows: readonly ReadingRow[],
  transaction?: Transaction,
): Promise<ReadingBeside[]> {
  const people = await lab.store.people.find(
    { id: [...new Set(rows.map(({ personId }) => personId))] },
    { transaction, columns: ['id', 'name'] },
  );
  const name = new Map(people.map((person) => [person.id, person.name]));
  return rows.map(
    ({ cellId, kind, purpose, value, decimals, repeats, clientKey, personId, at }) => ({
      cellId,
      kind,
      purpose,
      value,
      decimals,
      repeats,
      clientKey,
      person: name.get(personId) ?? '',
      at,
    }),
  );
}

/**
 * Refuses readings typed over something else than stands there: who typed them did not see it, and
 * a late one never takes the place of a newer one in silence.
 * @throws LabError conflict with the reading that stands there as `current`.
 */
export async function refuseUnseen(
  lab: Lab,
  lotId: number,
  typed: readonly Typed[],
  transaction: Transaction,
): Promise<void> {
  const asking = typed.filter(({ over }) => over !== undefined);
  if (asking.length === 0) return;
  const latest = await lab.store.evidence.latestReadings(
    lotId,
    [...new Set(asking.map(({ cellId }) => cellId))],
    transaction,
  );
  const standing = new Map(latest.map((row) => [placeOf(row), row]));
  const own = new Map<string, string>();
  for (const reading of typed) {
    const place = placeOf(reading);
    const row = standing.get(place);
    const stands = own.get(place) ?? row?.clientKey ?? null;
    own.set(place, reading.clientKey);
    const { over } = reading;
    // Nothing stood there, or it was taken back: the same to who looks.
    const isEmpty = over === null && (row === undefined || row.value === null);
    // The same value again is no other one.
    if (over === undefined || over === stands || isEmpty || row?.value === reading.value) continue;
    const [current] = row ? await beside(lab, [row], transaction) : [];
    throw new LabError(
      'conflict',
      current
        ? `${current.person} typed ${current.value === null ? 'nothing here' : current.value.toFixed(current.decimals)} here meanwhile.`
        : 'Something else stands here meanwhile.',
      { field: 'readings', current },
    );
  }
}

/**
 * Readings of a lot typed after one that is known, for those who look on; a few thousand at once.
 * With null only which one is the newest.
 */
export const readingsSince = question({
  role: 'technician',
  input: z.object({ lotId: z.int(), after: z.int().min(0).nullable() }),
  run: async (lab, { lotId, after }): Promise<{ last: number; readings: ReadingBeside[] }> => {
    if (after === null) {
      const [newest] = await lab.store.readings.find(
        { lotId },
        { order: [['id', 'DESC']], limit: 1, columns: ['id'] },
      );
      return { last: newest?.id ?? 0, readings: [] };
    }
    const rows = await lab.store.readings.find(
      { lotId, id: { above: after } },
      { order: [['id', 'ASC']], limit: 5000 },
    );
    return { last: rows.at(-1)?.id ?? after, readings: await beside(lab, rows) };
  },
});
