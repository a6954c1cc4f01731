import { recordDischarge, rowsAsCsv, typicalCell } from '@dusk-tally/core/simulator';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { importLog, recordReadings } from '../src/evidence';
import { exchangeRuns, holdsView, liftHold, lotCells, movesOfCell } from '../src/verdicts';
import { failure } from '../testing/failure';
import { claimedLot, type FreshLab, freshLab } from '../testing/fresh-lab';

/** Fourteen cells whose resistances differ by up to 14 %; two of them stand at each other’s places. */
const OHMS = [0, 3, -4, 6, -7, 2, -2, 5, -5, 1, -1, 4, -3, 7].map((pct) => 1 + pct / 50);
const SWAPPED = [3, 4] as const;

let fresh: FreshLab;
let lotId: number;
let ids: number[];
let numbers: string[];
const runs: number[] = [];

const lines = () => lotCells(fresh.lab, fresh.admin, { lotId });
const line = async (cell: number) => (await lines()).find(({ id }) => id === ids[cell])!;
const holdsOf = async (cell: number) =>
  (await holdsView(fresh.lab, fresh.admin, { lotId, cellId: ids[cell]! })).filter(
    ({ rule }) => rule === 'swapped',
  );

function logOf(cell: number): Uint8Array<ArrayBuffer> {
  const usual = typicalCell('LFP', 104 + 0.1 * cell);
  const [fast, slow] = usual.pairs;
  return new TextEncoder().encode(
    rowsAsCsv(
      recordDischarge(
        {
          ...usual,
          r0Mohm: usual.r0Mohm * OHMS[cell]!,
          pairs: [{ ...fast, mohm: fast.mohm * OHMS[cell]! }, slow],
        },
        {
          currentA: 20.8,
          cutoffV: 2.5,
          intervalS: 30,
          restBeforeS: 3900,
          restAfterS: 300,
          ambientC: 25,
          seed: 60 + cell,
          closerAtLoadOn: { everyS: 1, forS: 60 },
        },
      ),
    ),
  );
}

beforeAll(async () => {
  fresh = await freshLab();
  const lot = await claimedLot(fresh, OHMS.length);
  lotId = lot.id;
  const all = await lines();
  ids = all.map(({ id }) => id);
  numbers = all.map(({ number }) => number);
  await recordReadings(fresh.lab, fresh.admin, {
    lotId,
    readings: OHMS.map((ohms, cell) => ({
      cellId: ids[cell]!,
      kind: 'acResistance' as const,
      value: Number((0.46 * ohms).toFixed(4)),
      decimals: 4,
      clientKey: `00000000-0000-4000-9000-${String(cell).padStart(12, '0')}`,
    })),
  });
  for (const [cell] of OHMS.entries()) {
    const stood = cell === SWAPPED[0] ? SWAPPED[1] : cell === SWAPPED[1] ? SWAPPED[0] : cell;
    const { runId } = await importLog(fresh.lab, fresh.admin, {
      lotId,
      cellId: ids[cell]!,
      fileName: `log-${cell}.csv`,
      bytes: logOf(stood),
    });
    runs.push(runId);
  }
});
afterAll(() => fresh.close());

it('two logs that fit each other’s cells are held, both, and nothing else is', async () => {
  const all = await lines();
  expect(all.filter(({ held }) => held !== null).map(({ number }) => number)).toEqual(
    SWAPPED.map((cell) => numbers[cell]),
  );
  const [hold] = await holdsOf(SWAPPED[0]);
  expect(hold).toMatchObject({ runId: runs[SWAPPED[0]], otherRunId: runs[SWAPPED[1]] });
  expect(hold!.text).toContain(`fits ${numbers[SWAPPED[1]]}`);
  expect(hold!.text).toContain('were the two swapped');
});

it('a lead exchanges them, both or none; each cell then has what it really holds', async () => {
  const before = await Promise.all(SWAPPED.map(line));
  const [hold] = await holdsOf(SWAPPED[0]);
  const act = { holdId: hold!.id, version: hold!.version, reason: 'scanned both at their places' };
  const technician = { ...fresh.admin, role: 'technician' as const };
  expect((await failure(exchangeRuns(fresh.lab, technician, act))).code).toBe('notAllowed');
  const twice = await Promise.allSettled([
    exchangeRuns(fresh.lab, fresh.admin, act),
    exchangeRuns(fresh.lab, fresh.admin, act),
  ]);
  expect(twice.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
  const after = await Promise.all(SWAPPED.map(line));
  expect(after.map(({ held }) => held)).toEqual([null, null]);
  expect(after.map(({ capacityRawAh }) => capacityRawAh)).toEqual(
    [...before].reverse().map(({ capacityRawAh }) => capacityRawAh),
  );
  expect(after[1]!.capacityRawAh!).toBeGreaterThan(after[0]!.capacityRawAh!);
  for (const cell of SWAPPED) {
    const moves = await movesOfCell(fresh.lab, fresh.admin, { cellId: ids[cell]! });
    expect(moves.map(({ runId }) => runId).sort()).toEqual(SWAPPED.map((one) => runs[one]).sort());
  }
  expect(await holdsOf(SWAPPED[0])).toEqual([]);
});

it('a hold that was lifted stays lifted when more is read', async () => {
  // Another pair: the readings were typed for each other.
  const [a, b] = [1, 13];
  const type = (cell: number, ohms: number, key: number) =>
    recordReadings(fresh.lab, fresh.admin, {
      lotId,
      readings: [
        {
          cellId: ids[cell]!,
          kind: 'acResistance',
          value: Number((0.46 * ohms).toFixed(4)),
          decimals: 4,
          clientKey: `00000000-0000-4000-9100-${String(key).padStart(12, '0')}`,
        },
      ],
    });
  await type(8, OHMS[13]!, 1);
  await type(b, OHMS[8]!, 2);
  const [hold] = await holdsOf(8);
  expect(hold!.otherRunId).toBe(runs[b]);
  for (const { id } of [hold!, (await holdsOf(b))[0]!])
    await liftHold(fresh.lab, fresh.admin, { holdId: id, reason: 'both were scanned' });
  await type(a, OHMS[a]!, 3);
  expect((await line(8)).held).toBeNull();
  expect((await line(b)).held).toBeNull();
  expect(await holdsOf(8)).toHaveLength(1);
  // Put right, nothing is suspected any more: what was lifted stays on record.
  await type(8, OHMS[8]!, 4);
  await type(b, OHMS[b]!, 5);
  expect((await lines()).every(({ held }) => held === null)).toBe(true);
});
