import type { RunRecord } from '@dusk-tally/core/bench';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { refusedRecords, seeRefused, takeRecords } from '../src/bench';
import { dueItems, openLots } from '../src/today';
import { type BenchLab, benchLab, listEight, NOW } from '../testing/bench-lab';

describe('records of runs', () => {
  let bench = {} as BenchLab;
  let benchRunId = 0;
  let seq = 0;
  const lab = () => bench.fresh.lab;
  beforeAll(async () => {
    bench = await benchLab(() => NOW);
    await listEight(bench);
  });
  afterAll(() => bench.fresh.close());
  beforeEach(async () => {
    const [version] = await lab().store.bench.recipeVersions.find({});
    const { id } = await lab().store.bench.runs.insert({
      jobId: null,
      cellId: bench.cells[0]!.id,
      lotId: bench.lotId,
      channelId: null,
      recipeVersionId: version!.id,
      program: [{ kind: 'rest', seconds: 60 }],
      limits: { highV: 3.65, lowV: 2.5, ambientC: 22, intervalS: 1 },
      startList: [],
      driven: true,
      state: 'running',
      agent: 'bench',
      speed: 1,
      chemistry: 'LFP',
      expectedAh: 6,
      startSoc: 0.5,
      counterAh: 0,
      ambientC: 22,
      clamping: null,
      startedAt: NOW,
      endedAt: null,
      endReason: null,
      completed: null,
      runId: null,
      personId: bench.technician.id,
      createdAt: NOW,
    });
    benchRunId = id;
    seq = 0;
  });
  const reading = (): RunRecord => ({
    run: benchRunId,
    seq: ++seq,
    kind: 'reading',
    timeS: seq,
    step: 0,
    voltageV: 3.3,
    currentA: 0,
    temperatureC: 22,
    counterAh: null,
  });
  const odd = (more: object) => ({ ...reading(), ...more });
  let batch = 0;
  const send = (records: unknown[]) =>
    takeRecords(lab(), bench.technician, {
      agent: 'bench',
      instance: 'instance-1',
      batch: ++batch,
      records,
    });
  const stored = async () =>
    (await lab().store.bench.records.find({ benchRunId }, { order: [['seq', 'ASC']] })).map(
      (row) => row.seq,
    );

  it.each<[string, object]>([
    ['no number where one is needed', { voltageV: 'high' }],
    ['a kind nobody knows', { kind: 'song' }],
    ['an event nobody knows', { kind: 'event', event: { event: 'flew away' } }],
    [
      'an alarm nobody knows',
      { kind: 'event', event: { event: 'alarm', code: 'boredom', action: 'tell', text: '' } },
    ],
    ['a number no number is', { timeS: null }],
  ])('%s sets one record aside, and all others are taken', async (_, more) => {
    const records = [reading(), odd(more), reading()];
    const answer = await send(records);
    expect(answer.acked).toEqual([{ run: benchRunId, seq: 3 }]);
    expect(answer.refused).toMatchObject([{ run: benchRunId, seq: 2 }]);
    expect(await stored()).toEqual([1, 3]);
    // Sent again after a lost answer nothing is doubled, and the run goes on.
    expect((await send(records)).refused).toEqual([]);
    await send([reading()]);
    expect(await stored()).toEqual([1, 3, 4]);
    const shown = (await refusedRecords(lab(), bench.technician, {})).filter(
      (one) => one.benchRunId === benchRunId,
    );
    expect(shown).toHaveLength(1);
    expect(shown[0]!.reason.length).toBeGreaterThan(5);
    expect(JSON.parse(shown[0]!.body)).toMatchObject({ seq: 2 });
  });

  it('what says of no run whose it is, is set aside once, however often it comes', async () => {
    const before = (await refusedRecords(lab(), bench.technician, {})).length;
    for (let i = 0; i < 3; i++) await send(['what is this?', reading()]);
    expect(await refusedRecords(lab(), bench.technician, {})).toHaveLength(before + 1);
    expect(await stored()).toEqual([1, 2, 3]);
  });

  it('a gap before a refused record is still a gap', async () => {
    await send([reading()]);
    seq++;
    const answer = await send([odd({ voltageV: null })]);
    expect(answer).toMatchObject({ acked: [{ run: benchRunId, seq: 1 }], refused: [] });
  });

  it('an event whose consequence fails is kept and told of; the rest of the batch stands', async () => {
    const { bench: tables } = lab().store;
    // Somebody has that alarm's place already: its row cannot be written.
    await tables.alarms.insert({
      benchRunId,
      seq: 2,
      cellId: bench.cells[0]!.id,
      code: 'clockJump',
      action: 'tell',
      text: 'there before',
      at: NOW,
      acknowledgedAt: null,
      acknowledgedBy: null,
    });
    const first = reading();
    const alarm = {
      ...reading(),
      kind: 'event',
      event: { event: 'alarm', code: 'clockJump', action: 'tell', text: 'again' },
    };
    const end = {
      ...reading(),
      kind: 'event',
      event: { event: 'ended', reason: 'All steps are done.', completed: true },
    };
    const answer = await send([first, alarm, end]);
    expect(answer.acked).toEqual([{ run: benchRunId, seq: 3 }]);
    expect(answer.refused[0]!.reason).toContain('what follows from it failed');
    expect(await stored()).toEqual([1, 2, 3]);
    expect((await tables.runs.one({ id: benchRunId }))!.state).toBe('ended');
  });

  it.each<[string, object]>([
    ['an alarm nobody knows', { code: 'smokeSeen', action: 'block', text: 'Smoke.' }],
    [
      'an alarm whose row cannot be written',
      { code: 'heatOnCharge', action: 'block', text: 'Hot.' },
    ],
  ])('%s that blocks its cell blocks it all the same', async (_, alarm) => {
    const cell = bench.cells[0]!.id;
    const { inspections } = lab().store.arrivals;
    const blocked = () => inspections.count({ cellId: cell, code: 'heater' });
    const before = await blocked();
    await lab().store.bench.alarms.insert({
      benchRunId,
      seq: 1,
      cellId: cell,
      code: 'clockJump',
      action: 'tell',
      text: 'there before',
      at: NOW,
      acknowledgedAt: null,
      acknowledgedBy: null,
    });
    const answer = await send([
      { ...reading(), kind: 'event', event: { event: 'alarm', ...alarm } },
    ]);
    expect(answer.acked).toEqual([{ run: benchRunId, seq: 1 }]);
    expect(answer.refused).toHaveLength(1);
    expect(await blocked()).toBe(before + 1);
    expect((await lab().store.arrivals.cells.one({ cellId: cell }))!.gate).toBe('quarantined');
  });

  it('they wait on Today until somebody saw them, and stay kept', async () => {
    const due = async () =>
      (await dueItems(lab(), await openLots(lab()))).find(({ kind }) => kind === 'setAside');
    const all = await refusedRecords(lab(), bench.technician, {});
    expect((await due())!.count).toBe(all.length);
    await seeRefused(lab(), bench.technician, { ids: all.map(({ id }) => id) });
    expect(await due()).toBeUndefined();
    expect(await lab().store.bench.refusals.count({})).toBe(all.length);
  });
});
