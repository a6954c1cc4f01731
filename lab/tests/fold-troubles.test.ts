import { beforeAll, describe, expect, it } from 'vitest';
import { cancelLot, resumeLot } from '../src/arrivals';
import { readdir } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import {
  dueFolds,
  foldEnded,
  foldRun,
  foldTrouble,
  leaveUnfolded,
  tryFoldAgain,
} from '../src/gathering';
import type { Lab } from '../src';
import { cellPage } from '../src/verdicts';
import { failure } from '../testing/failure';
import { benchLab, type BenchLab, listEight, NOW } from '../testing/bench-lab';
import { dueItems, openLots } from '../src/today';

let made: BenchLab;
let clock = NOW;
const lab = () => made.fresh.lab;
const bench = () => lab().store.bench;

/** A driven run that ended: half an hour at rest, a discharge to its cut-off, row by row. */
async function endedRun(cell: number, { rows = 400, everyS = 30 } = {}): Promise<number> {
  const [job] = await bench().jobs.find({ cellId: made.cells[cell]!.id });
  const { id } = await bench().runs.insert({
    jobId: job!.id,
    cellId: made.cells[cell]!.id,
    lotId: made.lotId,
    channelId: made.channels[0]!,
    recipeVersionId: job!.recipeVersionId,
    program: [
      { kind: 'rest', seconds: 1800 },
      {
        kind: 'discharge',
        mode: 'current',
        set: 3,
        cutoffV: 2.5,
        maxS: 90_000,
        endsByTime: false,
        limitAh: null,
      },
    ],
    limits: { highV: 3.65, lowV: 2, ambientC: 22, intervalS: everyS },
    startList: [],
    driven: true,
    state: 'ended',
    agent: 'bench',
    speed: 1,
    chemistry: 'LFP',
    expectedAh: 6,
    startSoc: 1,
    counterAh: 0,
    ambientC: 22,
    clamping: null,
    startedAt: NOW,
    endedAt: NOW,
    endReason: 'The recipe is done.',
    completed: true,
    runId: null,
    personId: made.technician.id,
    createdAt: NOW,
    version: 1,
  });
  const rest = 10;
  const line = (i: number) => ({
    benchRunId: id,
    seq: i + 1,
    timeS: i * everyS,
    step: i < rest ? 0 : 1,
    // Each cell’s log is its own.
    voltageV: i < rest ? 3.35 + cell / 1000 : 3.3 - (0.8 * (i - rest)) / (rows - rest - 1),
    currentA: i < rest ? 0 : -3,
    temperatureC: 25,
    counterAh: null,
    event: null,
  });
  for (let from = 0; from < rows; from += 20_000)
    await bench().records.insertMany(
      Array.from({ length: Math.min(20_000, rows - from) }, (_, i) => line(from + i)),
    );
  return id;
}

const stateOf = async (id: number) => (await bench().runs.one({ id }))!;
const due = async () => (await dueFolds(lab())).map(({ path }) => path);

/** The lab with reading logs failing for the runs that are named. */
const failing = (says: () => Error): Lab => ({
  ...lab(),
  compute: {
    ...lab().compute,
    computeLog: () => Promise.reject(says()),
  },
});

describe('runs of our own that cannot be taken in as evidence', () => {
  beforeAll(async () => {
    made = await benchLab(() => clock);
    await listEight(made);
    return () => made.fresh.close();
  });

  it('one that fails keeps no other one waiting, is told, and tried again later', async () => {
    const one = await endedRun(0);
    const broken = failing(() => new Error('The worker died.'));
    expect(await foldEnded(broken)).toBe(1);
    expect(await stateOf(one)).toMatchObject({ state: 'ended', runId: null });
    expect(await due()).toEqual([`/bench/runs/${one}`]);
    const item = (await dueItems(lab(), await openLots(lab()))).find(
      ({ kind }) => kind === 'noEvidence',
    );
    expect(item!.note).toContain('ended and is no evidence yet: The worker died.');
    // The next one is taken in, and the failed one waits for its time.
    const two = await endedRun(1);
    expect(await foldEnded(lab())).toBe(1);
    expect((await stateOf(two)).state).toBe('stored');
    expect((await stateOf(one)).state).toBe('ended');
    clock = new Date(NOW.getTime() + 61_000);
    expect(await foldEnded(broken)).toBe(1);
    // Twice as long the second time.
    clock = new Date(NOW.getTime() + 61_000 + 119_000);
    expect(await foldEnded(lab())).toBe(0);
    clock = new Date(NOW.getTime() + 61_000 + 121_000);
    expect(await foldEnded(lab())).toBe(1);
    expect((await stateOf(one)).state).toBe('stored');
    expect(await due()).toEqual([]);
    const { runs } = await cellPage(lab(), made.fresh.admin, { number: made.cells[0]!.number });
    expect(runs).toHaveLength(1);
  });

  it('a lot called off is said, and taken in once it is taken up again', async () => {
    const id = await endedRun(2);
    const lot = async () => (await lab().store.lots.one({ id: made.lotId }))!;
    await cancelLot(lab(), made.fresh.admin, {
      lotId: made.lotId,
      version: (await lot()).version,
      reason: 'the supplier took it back',
    });
    await foldEnded(lab());
    const trouble = await foldTrouble(lab(), made.technician, { benchRunId: id });
    expect(trouble!.reason).toContain('was called off');
    expect((await stateOf(id)).state).toBe('ended');
    await resumeLot(lab(), made.fresh.admin, {
      lotId: made.lotId,
      version: (await lot()).version,
    });
    await tryFoldAgain(lab(), made.technician, { benchRunId: id });
    await foldEnded(lab());
    expect((await stateOf(id)).state).toBe('stored');
    expect(await foldTrouble(lab(), made.technician, { benchRunId: id })).toBeNull();
  });

  it('a lead leaves one without evidence, with a reason that stays', async () => {
    const id = await endedRun(3);
    await foldEnded(failing(() => new Error('No sense in it.')));
    const input = { benchRunId: id, reason: 'stopped by hand at once' };
    expect((await failure(leaveUnfolded(lab(), made.technician, input))).code).toBe('notAllowed');
    await leaveUnfolded(lab(), made.fresh.admin, input);
    expect(await due()).toEqual([]);
    expect(await foldEnded(lab())).toBe(0);
    expect(await foldTrouble(lab(), made.technician, { benchRunId: id })).toMatchObject({
      leftReason: 'stopped by hand at once',
    });
    expect((await failure(tryFoldAgain(lab(), made.technician, { benchRunId: id }))).code).toBe(
      'conflict',
    );
  });

  it('a long stretch goes by a file, and is the same evidence', async () => {
    const id = await endedRun(4);
    const before = await readdir(tmpdir());
    await foldRun(lab(), id, { inMemory: 1000 });
    expect(await foldTrouble(lab(), made.technician, { benchRunId: id })).toBeNull();
    const { runId } = await stateOf(id);
    expect((await lab().store.runs.one({ id: runId! }))!.rows).toBe(400);
    // Taken in once more, by memory, it is the same file.
    await bench().runs.update({ state: 'ended', runId: null }, { id });
    expect(await foldRun(lab(), id)).toBe(runId);
    const left = (await readdir(tmpdir())).filter(
      (name) => name.startsWith('dusk-bench-run-') && !before.includes(name),
    );
    expect(left).toEqual([]);
  });

  it('a log that is another cell’s is refused and told', async () => {
    const [one, two] = [await endedRun(5), await endedRun(5)];
    await foldRun(lab(), one);
    await bench().runs.update({ cellId: made.cells[6]!.id }, { id: two });
    await foldRun(lab(), two);
    expect((await stateOf(two)).state).toBe('ended');
    const trouble = await foldTrouble(lab(), made.technician, { benchRunId: two });
    expect(trouble!.reason).toContain('is the same file as');
  });
});
