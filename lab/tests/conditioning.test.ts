import { recordCharge, recordDischarge, rowsAsCsv, typicalCell } from '@dusk-tally/core/simulator';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  addJobs,
  finishByHand,
  listRecipes,
  planBoard,
  readAmbient,
  setChannelLimits,
  startJob,
  startList,
} from '../src/bench';
import { importLog } from '../src/evidence';
import { lotCells, lotConditioning } from '../src/verdicts';
import { ABLE, type BenchLab, benchLab, NOW } from '../testing/bench-lab';
import { failure } from '../testing/failure';

const HOUR_MS = 3_600_000;

describe('conditioning', () => {
  let made = {} as BenchLab;
  let clock = NOW;
  let seed = 400;
  const lab = () => made.fresh.lab;
  beforeAll(async () => {
    made = await benchLab(() => clock);
    for (const channelId of made.channels)
      await setChannelLimits(lab(), made.fresh.admin, { channelId, limits: ABLE, wiring: null });
  });
  afterAll(() => made.fresh.close());

  /** A charge and a discharge of one of the lot’s cells, as a log. */
  function take(i: number, capacityAh: number, risesEarlyV: number, channel: number) {
    // Resistance enough for a taper of some minutes.
    const cell = { ...typicalCell('LFP', 6), capacityAh, r0Mohm: 60 };
    const plan = { intervalS: 30, restBeforeS: 600, ambientC: 25 };
    const charge = recordCharge(cell, {
      ...plan,
      currentA: 1.2,
      chargeV: 3.65,
      taperA: 0.3,
      seed: seed++,
      from: 0.02,
      risesEarlyV,
    });
    const discharge = recordDischarge(cell, {
      ...plan,
      restBeforeS: 3600,
      restAfterS: 60,
      currentA: 1.2,
      cutoffV: 2.5,
      seed: seed++,
    });
    const from = charge[charge.length - 1]!.timeS + 30;
    return importLog(lab(), made.technician, {
      lotId: made.lotId,
      cellId: made.cells[i]!.id,
      channelId: made.channels[channel]!,
      fileName: `${i} ${seed}.csv`,
      bytes: new TextEncoder().encode(
        rowsAsCsv([...charge, ...discharge.map((row) => ({ ...row, timeS: row.timeS + from }))]),
      ),
    });
  }

  /** A round of the shipped recipe by hand, with the log of the test after it. */
  async function round(i: number, after: () => ReturnType<typeof take>, reason = '') {
    await readAmbient(lab(), made.technician, { celsius: 25 });
    const recipe = (await listRecipes(lab(), made.technician, {})).find(
      ({ purpose }) => purpose === 'conditioning',
    )!;
    await addJobs(lab(), made.technician, {
      lotId: made.lotId,
      cellIds: [made.cells[i]!.id],
      recipeId: recipe.id,
      reason,
    });
    const job = (await planBoard(lab(), made.technician, {})).jobs.findLast(
      ({ cellId }) => cellId === made.cells[i]!.id,
    )!;
    const where = { jobId: job.id, channelId: made.channels[0]! };
    const list = await startList(lab(), made.technician, where);
    const { benchRunId } = await startJob(lab(), made.technician, {
      ...where,
      answers: list.questions.map(({ question }) => ({ question, answeredFor: 'cell' as const })),
    });
    clock = new Date(clock.getTime() + 40 * HOUR_MS);
    const { runId } = await after();
    await finishByHand(lab(), made.technician, { benchRunId, runId });
    clock = new Date(
      NOW.getTime() + Math.ceil((clock.getTime() - NOW.getTime()) / (24 * HOUR_MS)) * 24 * HOUR_MS,
    );
  }

  const rounds = async (cellId?: number) =>
    lotConditioning(lab(), made.technician, { lotId: made.lotId, cellId });

  it('before and after side by side: improved, with what cancels on one channel; the verdict by the later', async () => {
    for (let i = 1; i < 8; i++) await take(i, 6.1 + 0.01 * i, 0.002 * (i % 3), 0);
    await take(0, 5.85, 0.05, 0);
    clock = new Date(clock.getTime() + 24 * HOUR_MS);
    await round(0, () => take(0, 6.12, 0, 0));
    const { rounds: told, benchHours } = await rounds();
    expect(benchHours).toBeCloseTo(40, 6);
    expect(told).toHaveLength(1);
    const [one] = told;
    expect(one!.change).toMatchObject({ result: 'improved' });
    expect(one!.change!.changeAh).toBeCloseTo(0.27, 1);
    // Gain and offset of the one channel cancel: known better than on two channels, never better than it repeats.
    expect(one!.change!.standardUncertainty).toBeLessThan(
      Math.hypot(
        one!.before!.expandedAh! / 2,
        one!.after!.expandedAh! / 2,
        0.0025 * 5.85,
        0.0025 * 6.12,
      ),
    );
    expect(one!.change!.standardUncertainty).toBeGreaterThan(0.0025 * 5.9);
    expect(one!.riseBefore!).toBeGreaterThan(3.5);
    expect(one!.riseAfter!).toBeLessThan(3.5);
    const line = (await lotCells(lab(), made.technician, { lotId: made.lotId }))[0]!;
    expect(line.capacityAh!).toBeGreaterThan(6);
    expect((await rounds(made.cells[1]!.id)).rounds).toEqual([]);
  });

  it('unchanged within its doubt, and on another channel both doubts count whole', async () => {
    await round(2, () => take(2, 6.125, 0, 1));
    const [one] = (await rounds(made.cells[2]!.id)).rounds;
    expect(one!.change).toMatchObject({ result: 'unchanged' });
    const { before, after } = one!;
    expect(one!.change!.standardUncertainty).toBeCloseTo(
      Math.hypot(
        before!.expandedAh! / 2,
        after!.expandedAh! / 2,
        0.0025 * before!.ah,
        0.0025 * after!.ah,
      ),
      3,
    );
  });

  it('what it gained contradicts nothing: before and after are no repeats of each other', async () => {
    // Repeats of other cells on both channels, so that channels and cells are told apart.
    for (const i of [3, 4, 5, 6]) {
      await take(i, 6.1 + 0.01 * i, 0, 1);
      await take(i, 6.1 + 0.01 * i, 0, 0);
    }
    const lines = await lotCells(lab(), made.technician, { lotId: made.lotId });
    expect(lines[0]!.holds).toEqual([]);
    // Without a conditioning between them the same two results do contradict each other.
    await take(7, 6.17, 0, 1);
    await take(7, 5.9, 0, 0);
    const again = await lotCells(lab(), made.technician, { lotId: made.lotId });
    expect(again[7]!.holds.length).toBeGreaterThan(0);
    expect(again[0]!.holds).toEqual([]);
  });

  it('a cell never tested before it has no change to tell', async () => {
    await round(9, () => take(9, 6.1, 0, 0));
    const [one] = (await rounds(made.cells[9]!.id)).rounds;
    expect(one).toMatchObject({ change: null, before: null, reason: 'not tested before it' });
    expect(one!.after).not.toBeNull();
  });

  it('the third round of a cell asks for a reason: each is cost', async () => {
    await round(0, () => take(0, 6.13, 0, 0));
    const third = round(0, () => take(0, 6.13, 0, 0));
    expect((await failure(third)).message).toContain('conditioned 2 times already');
    await round(0, () => take(0, 6.13, 0, 0), 'the buyer asked for it');
    expect((await rounds(made.cells[0]!.id)).rounds).toHaveLength(3);
  });
});
