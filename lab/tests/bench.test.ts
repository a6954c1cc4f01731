import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { RunRecord } from '@dusk-tally/core/bench';
import { seededRandom } from '@dusk-tally/core/statistics';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Agent } from '../../bench/src/agent';
import { SimulatedBench } from '../../bench/src/simulated';
import { until } from '../../bench/testing/memory-app';
import type { Actor } from '../src';
import { addModel, changeClaim, recordInspection, withdrawFinding } from '../src/arrivals';
import {
  acknowledgeAlarms,
  actorOfToken,
  addJobs,
  agentOrders,
  attendedSpans,
  beginParallelCharge,
  benchCalendar,
  benchRunView,
  cancelJobs,
  changeBenchSettings,
  checkPlace,
  commandRun,
  endParallelCharge,
  finishByHand,
  foldEnded,
  foldRun,
  listRecipes,
  listTokens,
  liveBoard,
  makeToken,
  MOST_A_MINUTE,
  moveJob,
  parallelCharges,
  planAll,
  planBoard,
  planState,
  readAmbient,
  reminders,
  retireRecipe,
  revokeToken,
  saveRecipe,
  setChannelLimits,
  spotReading,
  startJob,
  startList,
  takeRecords,
  UNKNOWN_LIMITS,
} from '../src/bench';
import { addInstrument, recordReadings } from '../src/evidence';
import { addPerson } from '../src/people';
import { cellPage, lotCells } from '../src/verdicts';
import { failure } from '../testing/failure';
import { claimedLot, type FreshLab, freshLab } from '../testing/fresh-lab';

const SPEED = 2000;
/** A Wednesday morning. */
const NOW = new Date('2026-03-04T09:00:00Z');

describe('attended hours', () => {
  it('follow the lab’s clock across its change', () => {
    const settings = {
      attendedFromMin: 480,
      attendedToMin: 1080,
      attendedDays: [1, 2, 3, 4, 5, 6, 7],
    };
    const now = new Date('2026-03-28T12:00:00Z');
    const spans = attendedSpans(settings, 'Europe/Vienna', now, 3);
    const at = (s: number) => new Date(now.getTime() + s * 1000).toISOString();
    expect(spans.map(({ fromS, toS }) => [at(fromS), at(toS)])).toEqual([
      ['2026-03-28T12:00:00.000Z', '2026-03-28T17:00:00.000Z'],
      ['2026-03-29T06:00:00.000Z', '2026-03-29T16:00:00.000Z'],
      ['2026-03-30T06:00:00.000Z', '2026-03-30T16:00:00.000Z'],
    ]);
  });
});

describe('the bench', () => {
  let fresh: FreshLab;
  let lotId: number;
  let cells: Awaited<ReturnType<typeof lotCells>>;
  let channels: number[];
  let technician: Actor;
  let clock = NOW;
  const lab = () => fresh.lab;
  const recipe = async (name: string) =>
    (await listRecipes(lab(), fresh.admin, {})).find((one) => one.name === name)!;

  beforeAll(async () => {
    fresh = await freshLab(() => clock);
    const lot = await claimedLot(fresh, 12, 6);
    lotId = lot.id;
    cells = await lotCells(lab(), fresh.admin, { lotId });
    await recordInspection(lab(), fresh.admin, {
      lotId,
      clientKey: '00000000-0000-4000-8000-000000000001',
      marks: [{ act: 'clearRest', except: [] }],
    });
    await recordReadings(lab(), fresh.admin, {
      lotId,
      readings: cells.map((cell, i) => ({
        cellId: cell.id,
        kind: 'openCircuitVoltage' as const,
        value: 3.29,
        decimals: 3,
        clientKey: `00000000-0000-4000-8000-0000000001${String(i).padStart(2, '0')}`,
      })),
    });
    for (let i = 0; i < 4; i++)
      await addInstrument(lab(), fresh.admin, {
        kind: 'tester',
        name: `Place ${i + 1}`,
        accuracy: {
          currentGainPct: 0.1,
          currentOffsetA: 0.002,
          voltageGainPct: 0.05,
          voltageOffsetV: 0.001,
          timePpm: 50,
        },
      });
    channels = (await planBoard(lab(), fresh.admin, {})).channels.map(({ id }) => id);
    await addPerson(lab(), fresh.admin, {
      email: 'tech@lab.example',
      name: 'Tamsin',
      role: 'technician',
      password: 'a long enough password',
    });
    technician = {
      id: (await lab().store.people.one({ name: 'Tamsin' }))!.id,
      name: 'Tamsin',
      role: 'technician',
    };
  });
  afterAll(() => fresh.close());

  const able = { ...UNKNOWN_LIMITS, canCharge: true, fuseA: 40, holderA: 40, reportS: 0.02 };

  describe('recipes', () => {
    it('ship with the app and keep every version', async () => {
      expect((await listRecipes(lab(), technician, {})).map(({ name }) => name)).toContain(
        'Capacity retention',
      );
      const own = {
        name: 'Half rate',
        purpose: 'own' as const,
        attendedOnly: false,
        steps: (await recipe('Claim check')).steps,
      };
      const { id } = await saveRecipe(lab(), fresh.admin, own);
      expect((await failure(saveRecipe(lab(), fresh.admin, own))).code).toBe('duplicate');
      const changed = await saveRecipe(lab(), fresh.admin, {
        ...own,
        id,
        rowVersion: 1,
        steps: own.steps.slice(0, 3),
        note: 'no storage',
      });
      expect(changed.number).toBe(2);
      expect(
        (await failure(saveRecipe(lab(), fresh.admin, { ...own, id, rowVersion: 1 }))).code,
      ).toBe('conflict');
      const rows = await lab().store.bench.recipeVersions.find({ recipeId: id });
      expect(rows.map(({ steps }) => steps.length)).toEqual([5, 3]);
      expect((await failure(saveRecipe(lab(), technician, { ...own, name: 'Mine' }))).code).toBe(
        'notAllowed',
      );
    });
    it('are refused where they make no sense, with the step', async () => {
      const bad = await failure(
        saveRecipe(lab(), fresh.admin, {
          name: 'Bad',
          purpose: 'own',
          attendedOnly: false,
          steps: [
            { kind: 'rest', minutes: 5 },
            {
              kind: 'charge',
              current: { in: 'It', value: 0.5 },
              limitV: null,
              taperIt: 0.6,
              maxHours: null,
              limitAh: null,
            },
          ],
        }),
      );
      expect(bad.message).toContain('Step 2');
      expect(
        (
          await failure(
            saveRecipe(lab(), fresh.admin, {
              name: 'Bad',
              purpose: 'own',
              attendedOnly: false,
              steps: [],
            }),
          )
        ).code,
      ).toBe('invalid');
    });
  });

  describe('planning', () => {
    it('says that no channel can charge until somebody wrote down that one can', async () => {
      const { id } = await recipe('Claim check');
      const { added } = await addJobs(lab(), technician, {
        lotId,
        cellIds: cells.slice(0, 8).map((cell) => cell.id),
        recipeId: id,
        dueOn: '2026-03-10',
      });
      expect(added).toBe(8);
      const again = await addJobs(lab(), technician, {
        lotId,
        cellIds: [cells[0]!.id],
        recipeId: id,
      });
      expect(again).toEqual({ added: 0, skipped: [cells[0]!.number] });
      expect((await planBoard(lab(), technician, {})).jobs[0]!.problem).toContain('No channel');
      for (const channelId of channels)
        await setChannelLimits(lab(), fresh.admin, { channelId, limits: able, wiring: null });
      expect(
        (
          await failure(
            setChannelLimits(lab(), fresh.admin, {
              channelId: channels[0]!,
              version: 0,
              limits: able,
              wiring: null,
            }),
          )
        ).code,
      ).toBe('conflict');
      expect((await planBoard(lab(), technician, {})).jobs[0]!.problem).toBeNull();
    });
    it('plans all that waits, first charges in attended hours, and writes a calendar', async () => {
      const summary = await planAll(lab(), technician, { seed: 3 });
      expect(summary.impossible).toEqual([]);
      const board = await planBoard(lab(), technician, {});
      expect(
        board.jobs.every(({ state, parts }) => state === 'planned' && parts.length === 1),
      ).toBe(true);
      for (const { parts, firstCharge } of board.jobs) {
        expect(firstCharge).toBe(true);
        const hour = new Date(parts[0]!.from).getUTCHours();
        expect(hour).toBeGreaterThanOrEqual(8);
        expect(hour).toBeLessThan(18);
      }
      expect((await planState(lab(), technician, {})).planSummary).toEqual(summary);
      const calendar = await benchCalendar(lab(), technician, {});
      expect(calendar.match(/BEGIN:VEVENT/g)).toHaveLength(8);
      expect(calendar.replace(/\r\n /g, '')).toContain(`Connect and watch ${cells[0]!.number}`);
    });
    it('checks a place before it is taken, and keeps what was put by hand', async () => {
      const { jobs } = await planBoard(lab(), technician, {});
      const job = jobs[0]!;
      const place = (from: string) => ({
        jobId: job.id,
        part: 0,
        channelId: job.parts[0]!.channelId,
        from: new Date(from),
      });
      expect(
        (await checkPlace(lab(), technician, place('2026-03-04T23:00:00Z'))).reasons.join(),
      ).toContain('Nobody is there');
      expect(
        (
          await failure(
            moveJob(lab(), technician, { ...place('2026-03-04T23:00:00Z'), version: job.version }),
          )
        ).message,
      ).toContain('does not fit');
      expect((await checkPlace(lab(), technician, place('2026-03-12T09:00:00Z'))).reasons).toEqual(
        [],
      );
      await moveJob(lab(), technician, { ...place('2026-03-12T09:00:00Z'), version: job.version });
      expect(
        (
          await failure(
            moveJob(lab(), technician, { ...place('2026-03-13T09:00:00Z'), version: job.version }),
          )
        ).code,
      ).toBe('conflict');
      await planAll(lab(), technician, { seed: 4 });
      const after = (await planBoard(lab(), technician, {})).jobs.find(({ id }) => id === job.id)!;
      expect(after.pinned).toBe(true);
      expect(after.parts[0]!.from).toBe('2026-03-12T09:00:00.000Z');
    });
    it('two people who plan at once leave one plan', async () => {
      await Promise.all([
        planAll(lab(), technician, { seed: 5 }),
        planAll(lab(), fresh.admin, { seed: 6 }),
      ]);
      const { jobs } = await planBoard(lab(), technician, {});
      const taken = jobs
        .flatMap(({ parts }) => parts)
        .sort((a, b) => a.channelId - b.channelId || a.from.localeCompare(b.from));
      taken.forEach((part, i) => {
        const after = taken[i + 1];
        if (after?.channelId === part.channelId) expect(after.from >= part.to).toBe(true);
      });
    });
    it('hours are kept with their version', async () => {
      const settings = await planState(lab(), technician, {});
      const hours = {
        attendedFromMin: 480,
        attendedToMin: 1080,
        attendedDays: [1, 2, 3, 4, 5],
        silenceLimitS: 60,
      };
      await changeBenchSettings(lab(), fresh.admin, { ...hours, version: settings.version });
      expect(
        (
          await failure(
            changeBenchSettings(lab(), fresh.admin, { ...hours, version: settings.version }),
          )
        ).code,
      ).toBe('conflict');
      expect(
        (
          await failure(
            changeBenchSettings(lab(), fresh.admin, {
              ...hours,
              attendedToMin: 400,
              version: settings.version + 1,
            }),
          )
        ).message,
      ).toContain('begin before');
    });
  });

  describe('a start', () => {
    const answers = (list: Awaited<ReturnType<typeof startList>>) =>
      list.questions.map(({ question }) => ({ question, answeredFor: 'cell' as const }));
    it('is refused until nothing stands against it and everything was answered', async () => {
      const job = (await planBoard(lab(), technician, {})).jobs[1]!;
      const where = { jobId: job.id, channelId: channels[3]! };
      const before = await startList(lab(), technician, where);
      expect(before.reasons.map(({ code }) => code)).toEqual(['noAmbient']);
      await readAmbient(lab(), technician, { celsius: 22 });
      const list = await startList(lab(), technician, where);
      expect(list.reasons).toEqual([]);
      expect(list.questions.map(({ question }) => question)).toContain('cutoffOnInstrument');
      expect(
        (await failure(startJob(lab(), technician, { ...where, answers: [] }))).message,
      ).toContain('Not answered');
      const both = await Promise.allSettled([
        startJob(lab(), technician, { ...where, answers: answers(list), counterAh: 3.2 }),
        startJob(lab(), fresh.admin, { ...where, answers: answers(list), counterAh: 3.2 }),
      ]);
      expect(both.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
      const run = (await lab().store.bench.runs.one({ jobId: job.id }))!;
      expect(run).toMatchObject({ driven: false, state: 'running', counterAh: 3.2 });
      const other = (await planBoard(lab(), technician, {})).jobs.find(({ id }) => id !== job.id)!;
      expect(
        (
          await failure(
            startJob(lab(), technician, {
              jobId: other.id,
              channelId: channels[3]!,
              answers: answers(list),
            }),
          )
        ).message,
      ).toContain('is taken');
      // A run without wires: the app keeps its time.
      const due = await reminders(lab(), technician, {});
      expect(due.map(({ text }) => text).join()).toContain(
        `${job.cell} should be near its cut-off`,
      );
      clock = new Date(NOW.getTime() + 30 * 3_600_000);
      expect((await reminders(lab(), technician, {})).some(({ isOverdue }) => isOverdue)).toBe(
        true,
      );
      clock = NOW;
      await spotReading(lab(), technician, {
        benchRunId: run.id,
        quantity: 'voltage',
        value: 3.31,
      });
      await finishByHand(lab(), technician, { benchRunId: run.id, note: 'typed total' });
      expect((await lab().store.bench.jobs.one({ id: job.id }))!.state).toBe('done');
      expect((await failure(finishByHand(lab(), technician, { benchRunId: run.id }))).code).toBe(
        'conflict',
      );
    });
    it('is refused for a cell in quarantine', async () => {
      await recordInspection(lab(), fresh.admin, {
        lotId,
        clientKey: '00000000-0000-4000-8000-000000000002',
        marks: [{ act: 'finding', cellIds: [cells[7]!.id], code: 'leaking', note: null }],
      });
      const job = (await planBoard(lab(), technician, {})).jobs.find(
        ({ cellId }) => cellId === cells[7]!.id,
      )!;
      const list = await startList(lab(), technician, { jobId: job.id, channelId: channels[0]! });
      expect(list.reasons.map(({ code }) => code)).toContain('inspection');
      const refused = await failure(
        startJob(lab(), technician, {
          jobId: job.id,
          channelId: channels[0]!,
          answers: answers(list),
        }),
      );
      expect(refused.code).toBe('notAllowed');
      expect(
        (
          await failure(
            addJobs(lab(), technician, {
              lotId,
              cellIds: [cells[7]!.id],
              recipeId: (await recipe('Quick screen')).id,
            }),
          )
        ).code,
      ).toBe('notAllowed');
      expect(
        (await cancelJobs(lab(), technician, { ids: [job.id], reason: 'quarantined' })).cancelled,
      ).toBe(1);
    });
  });

  describe('driven by an agent', () => {
    let bench: SimulatedBench;
    let folder: string;
    let agent: Agent;
    const app = {
      poll: (poll: Parameters<typeof agentOrders>[2]) => agentOrders(lab(), fresh.admin, poll),
      records: (batch: Parameters<typeof takeRecords>[2]) => takeRecords(lab(), fresh.admin, batch),
    };
    beforeAll(async () => {
      folder = mkdtempSync(join(tmpdir(), 'dusk-lab-bench-'));
      bench = new SimulatedBench({
        seed: 3,
        capacitySpread: 0,
        speed: SPEED,
        port: 0,
        places: [
          { chemistry: 'LFP', ratedAh: 6, stateOfCharge: 0.5 },
          { chemistry: 'LFP', ratedAh: 6, stateOfCharge: 0.1, faults: { heaterWPerA2: 3 } },
          { chemistry: 'LFP', ratedAh: 6, stateOfCharge: 0.5, faults: { capacityShare: 0.93 } },
          { chemistry: 'LFP', ratedAh: 6, stateOfCharge: 0.5 },
        ],
      });
      const wirings = await bench.open();
      for (const [i, channelId] of channels.entries())
        await setChannelLimits(lab(), fresh.admin, {
          channelId,
          version: 1,
          limits: able,
          wiring: wirings[i]!,
          agent: 'bench',
        });
      agent = new Agent({
        name: 'bench',
        app: app as never,
        folder,
        speed: SPEED,
        tickMs: 20,
        pollMs: 50,
        timeoutMs: 500,
      });
      agent.start();
    });
    afterAll(async () => {
      await agent.stop();
      await bench.close();
      rmSync(folder, { recursive: true, force: true });
    });
    const begin = async (cell: number, channel: number) => {
      const job = (await planBoard(lab(), technician, {})).jobs.find(
        ({ cellId }) => cellId === cells[cell]!.id,
      )!;
      const where = { jobId: job.id, channelId: channels[channel]! };
      const list = await startList(lab(), technician, where);
      expect(list.questions.map(({ question }) => question)).not.toContain('cutoffOnInstrument');
      const { benchRunId } = await startJob(lab(), technician, {
        ...where,
        answers: list.questions.map(({ question }) => ({ question, answeredFor: 'set' as const })),
      });
      return benchRunId;
    };
    const state = async (id: number) => (await lab().store.bench.runs.one({ id }))!;
    const over = async (id: number) => {
      for (let i = 0; i < 600; i++) {
        if ((await state(id)).state === 'ended') return;
        await new Promise((resolve) => setTimeout(resolve, 50));
      }
      throw new Error('The run did not end.');
    };

    it('runs, is seen live, and becomes evidence like any other log', async () => {
      const [one, two] = [await begin(2, 0), await begin(3, 2)];
      await until(
        () => bench.places[0]!.supply.on && bench.places[2]!.supply.on,
        20_000,
        'current',
      );
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
        )!.value;
      expect(await capacity(2)).toBeCloseTo(bench.places[0]!.rated.capacityAh, 1);
      expect((await capacity(3)) / (await capacity(2))).toBeLessThan(0.96);
      // Taken in again, after a crash between its log and its mark, it is the same run.
      await lab().store.bench.runs.update({ state: 'ended', runId: null }, { id: one });
      expect(await foldRun(lab(), one)).toBe(run.runId);
      expect((await cellPage(lab(), fresh.admin, { number: cells[2]!.number })).runs).toHaveLength(
        1,
      );
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
      expect(
        (await acknowledgeAlarms(lab(), technician, { ids: [alarms[0]!.id] })).acknowledged,
      ).toBe(1);
      expect(
        (await acknowledgeAlarms(lab(), technician, { ids: [alarms[0]!.id] })).acknowledged,
      ).toBe(0);
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
        const answers =
          random.uniform() < 0.3 ? await Promise.all([send(), send()]) : [await send()];
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
      clock = new Date(NOW.getTime() + 90_000);
      expect(await commandRun(lab(), technician, { benchRunId: id, kind: 'stop' })).toEqual({
        atOnce: true,
      });
      expect((await state(id)).endReason).toContain('by hand');
      const orders = await agentOrders(lab(), fresh.admin, poll);
      expect(orders.drop).toEqual([{ run: id, reason: (await state(id)).endReason }]);
      clock = NOW;
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
        records: [
          { run: id, seq: 1, kind: 'event', timeS: 0, step: 0, event: { event: 'started' } },
        ],
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
  });

  it('tokens have a scope, a limit and an end', async () => {
    expect(
      (await failure(makeToken(lab(), technician, { name: 'mine', scopes: ['read'] }))).code,
    ).toBe('notAllowed');
    const { id, token } = await makeToken(lab(), fresh.admin, {
      name: 'bench computer',
      scopes: ['bench'],
    });
    expect((await actorOfToken(lab(), `Bearer ${token}`, 'bench')).name).toContain(
      'bench computer',
    );
    expect((await failure(actorOfToken(lab(), `Bearer ${token}`, 'write'))).code).toBe(
      'notAllowed',
    );
    expect((await failure(actorOfToken(lab(), 'Bearer dusk_wrong', 'bench'))).code).toBe(
      'notSignedIn',
    );
    expect((await failure(actorOfToken(lab(), null, 'bench'))).code).toBe('notSignedIn');
    await lab().store.bench.tokens.update({ windowCount: MOST_A_MINUTE, windowAt: clock }, { id });
    expect((await failure(actorOfToken(lab(), `Bearer ${token}`, 'bench'))).code).toBe('tooMany');
    clock = new Date(clock.getTime() + 61_000);
    expect((await actorOfToken(lab(), `Bearer ${token}`, 'bench')).tokenId).toBe(id);
    clock = NOW;
    await revokeToken(lab(), fresh.admin, { id });
    expect((await failure(actorOfToken(lab(), `Bearer ${token}`, 'bench'))).code).toBe(
      'notSignedIn',
    );
    expect((await listTokens(lab(), fresh.admin, {}))[0]).toMatchObject({
      name: 'bench computer',
      by: 'Ada',
    });
    expect(JSON.stringify(await listTokens(lab(), fresh.admin, {}))).not.toContain('hash');
  });

  it('a parallel bank that is full too early is said at once', async () => {
    const bank = {
      lotId,
      cells: 4,
      fromSoc: 0.3,
      supplyA: 10,
      startedAt: new Date('2026-03-03T09:00:00Z'),
      voltagesEqual: true as const,
    };
    const { id } = await beginParallelCharge(lab(), technician, bank);
    expect(
      (
        await failure(
          endParallelCharge(lab(), technician, { id, fullAt: new Date('2026-03-03T08:00:00Z') }),
        )
      ).code,
    ).toBe('invalid');
    const judged = await endParallelCharge(lab(), technician, {
      id,
      fullAt: new Date('2026-03-03T10:00:00Z'),
    });
    expect(judged.tooEarly).toBe(true);
    expect((await parallelCharges(lab(), technician, { lotId }))[0]!.judged!.atMostAh).toBeCloseTo(
      10 / 4 / 0.7,
      6,
    );
    expect(
      (
        await failure(
          beginParallelCharge(lab(), technician, { ...bank, voltagesEqual: false as never }),
        )
      ).message,
    ).toContain('Compare the voltages');
  });

  it('a recipe that jobs wait for is not retired', async () => {
    const { id } = await recipe('Claim check');
    expect((await failure(retireRecipe(lab(), fresh.admin, { id }))).code).toBe('conflict');
    await retireRecipe(lab(), fresh.admin, { id: (await recipe('Half rate')).id });
    expect((await listRecipes(lab(), fresh.admin, {})).map(({ name }) => name)).not.toContain(
      'Half rate',
    );
  });

  it('a lot without a capacity says so before anything is planned', async () => {
    const model = await addModel(lab(), fresh.admin, {
      name: 'Unknown',
      chemistry: 'LFP',
      format: 'prism',
    });
    const lot = await lab().store.lots.one({ id: lotId });
    await lab().store.lots.update({ modelId: model.id }, { id: lotId });
    await changeClaim(lab(), fresh.admin, {
      lotId,
      version: (await lab().store.lots.one({ id: lotId }))!.version,
      claim: [],
    });
    expect(
      (
        await failure(
          addJobs(lab(), technician, {
            lotId,
            cellIds: [cells[9]!.id],
            recipeId: (await recipe('Claim check')).id,
          }),
        )
      ).message,
    ).toContain('claims no capacity');
    expect(lot).not.toBeNull();
  });
});
