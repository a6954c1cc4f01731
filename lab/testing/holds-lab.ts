import { recordDischarge, rowsAsCsv, typicalCell } from '@dusk-tally/core/simulator';
import { afterAll, beforeAll } from 'vitest';
import { changeClaim } from '../src/arrivals';
import { importLog } from '../src/evidence';
import { lotCells, lotVerdict } from '../src/verdicts';
import { claimedLot, type FreshLab, freshLab } from './fresh-lab';

/** A log of a 104 Ah cell; every one differs a little. */
export function logOf(
  holdsAh: number,
  seed: number,
  more: { gainPct?: number; hole?: [number, number]; counterFactor?: number } = {},
): Uint8Array<ArrayBuffer> {
  const rows = recordDischarge(typicalCell('LFP', holdsAh), {
    currentA: 20.8,
    cutoffV: 2.5,
    intervalS: 30,
    restBeforeS: 3900,
    restAfterS: 300,
    // A degree off the claim, so that every result is carried to it.
    ambientC: 24,
    seed,
    channel: { currentGainPct: more.gainPct ?? 0 },
  });
  const [from, by] = more.hole ?? [Infinity, 0];
  const moved = rows.map((row) => (row.timeS > from ? { ...row, timeS: row.timeS + by } : row));
  if (!more.counterFactor) return new TextEncoder().encode(rowsAsCsv(moved));
  let ah = 0;
  const lines = moved.map((row, i) => {
    if (i > 0) ah += (Math.abs(row.currentA) * (row.timeS - moved[i - 1]!.timeS)) / 3600;
    return `${row.timeS},${row.voltageV.toFixed(3)},${row.currentA.toFixed(3)},${(ah * more.counterFactor!).toFixed(3)}`;
  });
  return new TextEncoder().encode(`time_s,voltage_V,current_A,capacity_Ah\n${lines.join('\n')}\n`);
}

export let fresh: FreshLab;
export let lotId: number;
export let code: string;
export let ids: number[];
export let numbers: string[];
let seed = 100;
export const take = async (cell: number, bytes: Uint8Array<ArrayBuffer>) =>
  (
    await importLog(fresh.lab, fresh.admin, {
      lotId,
      cellId: ids[cell]!,
      fileName: `log-${++seed}.csv`,
      bytes,
    })
  ).runId;
export const lines = () => lotCells(fresh.lab, fresh.admin, { lotId });
export const line = async (cell: number) => (await lines()).find(({ id }) => id === ids[cell])!;
export const verdict = () => lotVerdict(fresh.lab, fresh.admin, { code });

/** A lot of twenty cells, six of them measured, for the tests of one file; call it at the top of the file. */
export function useHoldsLab(): void {
  beforeAll(async () => {
    seed = 100;
    fresh = await freshLab();
    const lot = await claimedLot(fresh, 20);
    lotId = lot.id;
    code = lot.code;
    await changeClaim(fresh.lab, fresh.admin, {
      lotId,
      version: lot.version,
      claim: [
        {
          kind: 'capacity',
          value: 104,
          conditions: { rateIt: 0.2, cutoffV: 2.5, temperatureC: 25 },
        },
        { kind: 'acResistance', value: 0.5 },
      ],
    });
    const all = await lines();
    ids = all.map(({ id }) => id);
    numbers = all.map(({ number }) => number);
    for (let cell = 0; cell < 6; cell++) await take(cell, logOf(106 + 0.2 * cell, 10 + cell));
  });
  afterAll(() => fresh.close());
}
