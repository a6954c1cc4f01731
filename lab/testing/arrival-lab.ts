import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { LotRow } from '@dusk-tally/store';
import { afterAll, beforeAll } from 'vitest';
import type { Actor } from '../src';
import { arrivalCells, lotArrival, recordInspection } from '../src/arrivals';
import { recordReadings } from '../src/evidence';
import { addPersonWithPassword, signIn } from '../src/people';
import { type FreshLab, freshLab, PASSWORD } from './fresh-lab';

export let fresh: FreshLab;
export let technician: Actor;
export let other: Actor;

export const key = () => randomUUID();
export const gates = async (lot: LotRow) =>
  Object.fromEntries(
    (await lotArrival(fresh.lab, technician, { lotId: lot.id })).gates.map((row) => [
      row.gate,
      row.count,
    ]),
  );
export const cellsOf = (lot: LotRow) => arrivalCells(fresh.lab, technician, { lotId: lot.id });
export const inspect = (
  lot: LotRow,
  marks: Parameters<typeof recordInspection>[2]['marks'],
  who = technician,
) => recordInspection(fresh.lab, who, { lotId: lot.id, clientKey: key(), marks });
export const volts = (lot: LotRow, values: [number, number][]) =>
  recordReadings(fresh.lab, technician, {
    lotId: lot.id,
    readings: values.map(([cellId, value]) => ({
      cellId,
      kind: 'openCircuitVoltage' as const,
      value,
      decimals: 3,
      clientKey: key(),
    })),
  });
export const sample = (name: string) =>
  new Uint8Array(readFileSync(join(import.meta.dirname, '../../core/fixtures/samples', name)));

/** A lab with a technician and another for the tests of one file; call it at the top of the file. */
export function useArrivalLab(): void {
  beforeAll(async () => {
    fresh = await freshLab();
    for (const name of ['Tess', 'Olm'])
      await addPersonWithPassword(fresh.lab, fresh.admin, {
        email: `${name.toLowerCase()}@lab.example`,
        name,
        role: 'technician',
        password: PASSWORD,
      });
    technician = await signIn(fresh.lab, { email: 'tess@lab.example', password: PASSWORD });
    other = await signIn(fresh.lab, { email: 'olm@lab.example', password: PASSWORD });
  });
  afterAll(() => fresh.close());
}
