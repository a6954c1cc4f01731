import type { RunRecord } from '@dusk-tally/core/bench';
import { foldEnded, foldRun } from '../src/gathering';
import { seededRandom } from '@dusk-tally/core/statistics';
import { expect, it } from 'vitest';
import { until } from '../../bench/testing/memory-app';
import { withdrawFinding } from '../src/arrivals';
import {
  acknowledgeAlarms,
  addJobs,
  agentOrders,
  benchRunView,
  commandRun,
  liveBoard,
  spotReading,
  takeRecords,
} from '../src/bench';
import { cellPage } from '../src/verdicts';
import { NOW } from '../testing/bench-lab';
import { failure } from '../testing/failure';
import {
  begin,
  bench,
  cells,
  channels,
  setClock,
  fresh,
  lab,
  lotId,
  over,
  recipe,
  state,
  technician,
  useDrivenBench,
} from '../testing/driven-bench';

useDrivenBench();

it('runs, is seen live, and becomes evidence like any other log', async () => {
  const [one, two] = [await begin(2, 0), await begin(3, 2)];
  await until(() => bench.places[0]!.supply.on && bench.places[2]!.supply.on, 20_000, 'current');
  const board = await liveBoard(lab(), technician, {});
  const live = board.channels.find(({ id }) => id === channels[0])!.run!;
  expect(live).toMatchObject({ cell: cells[2]!.number, driven: true, steps: 5 });
  await Promise.all([over(one), over(two)]);
  expect(await foldEnded(lab())).toBe(2);
  expect(await foldEnded(lab())).toBe(0);
  const run = await state(one);
  expect(run).toMatchObject({ state: 'stored', completed: true });
  const page = await cellPage(lab(), fresh.admin, { number: cells[2]!.number });
  expect(page.runs).toHaveLength(1);
  const capacity = async (cell: number) =>
    (await cellPage(lab(), fresh.admin, { number: cells[cell]!.number })).runs[0]!.figures.find(
      ({ quantity }) => quantity === 'capacity',
    )!;
  for (const [cell, place, share] of [
    [2, 0, 1],
    [3, 2, 0.93],
  ] as const) {
    const holdsAh = bench.places[place]!.rated.capacityAh * share;
    const { value, bound } = await capacity(cell);
    // Where the machine stood still for a moment, many minutes of the run were not read: the
    // figure is then what was given up to there, and says so.
    if (bound === 'exact') expect(value).toBeCloseTo(holdsAh, 1);
    else {
      expect(bound).toBe('atLeast');
      expect(value).toBeLessThan(holdsAh + 0.05);
    }
  }
  // Taken in again, after a crash between its log and its mark, it is the same run.
  await lab().store.bench.runs.update({ state: 'ended', runId: null }, { id: one });
  expect(await foldRun(lab(), one)).toBe(run.runId);
  expect((await cellPage(lab(), fresh.admin, { number: cells[2]!.number })).runs).toHaveLength(1);
  const view = await benchRunView(lab(), technician, { id: one });
  expect(view.points.length).toBeGreaterThan(50);
  expect(view.points.length).toBeLessThanOrEqual(700);
});

it('stops a heater, blocks it for good and takes its jobs off', async () => {
  await addJobs(lab(), technician, {
    lotId,
    cellIds: [cells[4]!.id],
    recipeId: (await recipe('Quick screen')).id,
  });
  const id = await begin(4, 1);
  await over(id);
  expect(await state(id)).toMatchObject({ completed: false });
  expect(bench.places[1]!.supply.on).toBe(false);
  const { alarms } = await liveBoard(lab(), technician, {});
  expect(alarms[0]).toMatchObject({
    code: 'heatOnCharge',
    cell: cells[4]!.number,
    action: 'block',
  });
  expect(alarms[0]!.advice).toContain('tongs');
  const arrival = await lab().store.arrivals.cells.one({ cellId: cells[4]!.id });
  expect(arrival!.gate).toBe('quarantined');
  const finding = (await lab().store.arrivals.inspections.one({
    cellId: cells[4]!.id,
    code: 'heater',
  }))!;
  expect(
    (
      await failure(
        withdrawFinding(lab(), fresh.admin, { findingId: finding.id, reason: 'a mistake' }),
      )
    ).message,
  ).toContain('never taken back');
  expect(
    await lab().store.bench.jobs.count({
      cellId: cells[4]!.id,
      state: ['waiting', 'planned'],
    } as never),
  ).toBe(0);
  expect((await acknowledgeAlarms(lab(), technician, { ids: [alarms[0]!.id] })).acknowledged).toBe(
    1,
  );
  expect((await acknowledgeAlarms(lab(), technician, { ids: [alarms[0]!.id] })).acknowledged).toBe(
    0,
  );
  await foldEnded(lab());
  expect((await state(id)).state).toBe('stored');
});

it('pauses, goes on and stops when it is asked to, once', async () => {
  const id = await begin(5, 3);
  await until(() => bench.places[3]!.supply.on, 20_000, 'current');
  await commandRun(lab(), technician, { benchRunId: id, kind: 'pause' });
  await commandRun(lab(), technician, { benchRunId: id, kind: 'pause' });
  await until(() => !bench.places[3]!.supply.on, 10_000, 'a pause');
  await spotReading(lab(), technician, {
    benchRunId: id,
    quantity: 'temperature',
    value: 23.5,
  });
  await commandRun(lab(), technician, { benchRunId: id, kind: 'resume' });
  await until(() => bench.places[3]!.supply.on, 10_000, 'going on');
  await commandRun(lab(), technician, { benchRunId: id, kind: 'stop' });
  await over(id);
  expect((await state(id)).endReason).toBe('Tamsin stopped it.');
  expect(
    (await failure(commandRun(lab(), technician, { benchRunId: id, kind: 'pause' }))).code,
  ).toBe('conflict');
  expect(await lab().store.bench.commands.count({ doneAt: null })).toBe(0);
  await foldEnded(lab());
});

it('another agent may not have its name, nor its runs', async () => {
  const stranger = { instance: 'another-instance', speed: 1, runs: [], done: [] };
  expect(
    (await failure(agentOrders(lab(), fresh.admin, { ...stranger, agent: 'bench' }))).message,
  ).toContain('Another agent named bench');
  const id = await begin(6, 0);
  await until(() => bench.places[0]!.supply.on, 20_000, 'current');
  const orders = await agentOrders(lab(), fresh.admin, {
    ...stranger,
    agent: 'other',
    runs: [{ run: id, lastSeq: 3, phase: 'running' }],
  });
  expect(orders.start).toEqual([]);
  expect(orders.drop).toEqual([{ run: id, reason: 'Another agent has it.' }]);
  expect(
    (
      await takeRecords(lab(), fresh.admin, {
        agent: 'other',
        instance: 'x',
        batch: 1,
        records: [
          { run: id, seq: 1, kind: 'event', timeS: 0, step: 0, event: { event: 'started' } },
        ],
      })
    ).acked,
  ).toEqual([]);
  await commandRun(lab(), technician, { benchRunId: id, kind: 'stop' });
  await over(id);
});

it('takes each record once, in whatever order and how often batches come', async () => {
  const { id: _id, ...row } = (await lab().store.bench.runs.one({ agent: 'bench' }))!;
  const { id } = await lab().store.bench.runs.insert({
    ...row,
    jobId: null,
    state: 'running',
    agent: 'shuffled',
    runId: null,
  } as never);
  const random = seededRandom(11);
  const records: RunRecord[] = Array.from({ length: 400 }, (_, i) => ({
    run: id,
    seq: i + 1,
    kind: 'reading',
    timeS: i * 10,
    voltageV: 3.3,
    currentA: -1.2,
    temperatureC: 22,
    counterAh: null,
    step: 0,
  }));
  let acked = 0;
  for (let batch = 1; acked < 400; batch++) {
    const from = Math.max(0, acked - Math.floor(random.uniform() * 30));
    const slice = records.slice(from, from + Math.floor(random.uniform() * 60));
    slice.sort(() => random.uniform() - 0.5);
    const doubled = random.uniform() < 0.3 ? [...slice, ...slice.slice(0, 5)] : slice;
    const send = () =>
      takeRecords(lab(), fresh.admin, {
        agent: 'shuffled',
        instance: 'x',
        batch,
        records: doubled,
      });
    const answers = random.uniform() < 0.3 ? await Promise.all([send(), send()]) : [await send()];
    for (const answer of answers) acked = Math.max(acked, answer.acked[0]?.seq ?? acked);
    // What leaves a gap is not taken.
    const gap = await takeRecords(lab(), fresh.admin, {
      agent: 'shuffled',
      instance: 'x',
      batch,
      records: records.slice(acked + 5, acked + 7),
    });
    if (acked < 390) expect(gap.acked[0]?.seq ?? acked).toBe(acked);
  }
  const stored = await lab().store.bench.records.find(
    { benchRunId: id },
    { order: [['seq', 'ASC']] },
  );
  expect(stored.map(({ seq }) => seq)).toEqual(records.map(({ seq }) => seq));
  expect((await lab().store.bench.live.one({ benchRunId: id }))!.givenAh).toBeCloseTo(
    (399 * 10 * 1.2) / 3600,
    9,
  );
});

it('lets a person stop a run whose agent is gone, and tells the agent when it is back', async () => {
  const { id: _id, ...row } = (await lab().store.bench.runs.one({ agent: 'bench' }))!;
  const { id } = await lab().store.bench.runs.insert({
    ...row,
    jobId: null,
    state: 'running',
    agent: 'gone',
    runId: null,
  } as never);
  const poll = {
    agent: 'gone',
    instance: 'instance-1',
    speed: 1,
    done: [],
    runs: [{ run: id, lastSeq: 4, phase: 'running' }],
  };
  await agentOrders(lab(), fresh.admin, poll);
  expect(await commandRun(lab(), technician, { benchRunId: id, kind: 'stop' })).toEqual({
    atOnce: false,
  });
  setClock(new Date(NOW.getTime() + 90_000));
  expect(await commandRun(lab(), technician, { benchRunId: id, kind: 'stop' })).toEqual({
    atOnce: true,
  });
  expect((await state(id)).endReason).toContain('by hand');
  const orders = await agentOrders(lab(), fresh.admin, poll);
  expect(orders.drop).toEqual([{ run: id, reason: (await state(id)).endReason }]);
  setClock(NOW);
});

it('ends a run whose agent lost its journal', async () => {
  const { id: _id, ...row } = (await lab().store.bench.runs.one({ agent: 'bench' }))!;
  const { id } = await lab().store.bench.runs.insert({
    ...row,
    jobId: null,
    state: 'running',
    agent: 'forgetful',
    runId: null,
  } as never);
  await takeRecords(lab(), fresh.admin, {
    agent: 'forgetful',
    instance: 'instance-1',
    batch: 1,
    records: [{ run: id, seq: 1, kind: 'event', timeS: 0, step: 0, event: { event: 'started' } }],
  });
  await agentOrders(lab(), fresh.admin, {
    agent: 'forgetful',
    instance: 'instance-2',
    speed: 1,
    runs: [],
    done: [],
  });
  expect(await state(id)).toMatchObject({
    state: 'ended',
    endReason: 'The agent lost its journal; the run was ended.',
  });
});
