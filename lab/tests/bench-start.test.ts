import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { recordInspection } from '../src/arrivals';
import {
  addJobs,
  cancelJobs,
  finishByHand,
  listRecipes,
  liveBoard,
  planBoard,
  readAmbient,
  raiseOverdue,
  reminders,
  spotReading,
  startJob,
  startList,
} from '../src/bench';
import { type BenchLab, benchLab, listEight, NOW } from '../testing/bench-lab';
import { failure } from '../testing/failure';

describe('a start on the bench', () => {
  let { fresh, lotId, cells, channels, technician } = {} as BenchLab;
  let clock = NOW;
  const lab = () => fresh.lab;
  beforeAll(async () => {
    const made = await benchLab(() => clock);
    ({ fresh, lotId, cells, channels, technician } = made);
    await listEight(made);
  });
  afterAll(() => fresh.close());
  const recipe = async (name: string) =>
    (await listRecipes(lab(), fresh.admin, {})).find((one) => one.name === name)!;

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
    // Another cell stands at the place: nothing is started.
    const wrongPlace = await failure(
      startJob(lab(), technician, { ...where, answers: answers(list), scanned: cells[2]!.number }),
    );
    expect(wrongPlace).toMatchObject({ code: 'invalid' });
    expect(wrongPlace.message).toContain(`${cells[2]!.number} stands at`);
    expect(
      (
        await failure(
          startJob(lab(), technician, { ...where, answers: answers(list), scanned: 'QX-1' }),
        )
      ).message,
    ).toContain('no cell of this lab');
    expect(await lab().store.bench.runs.one({ jobId: job.id })).toBeNull();
    const both = await Promise.allSettled([
      startJob(lab(), technician, {
        ...where,
        answers: answers(list),
        counterAh: 3.2,
        scanned: job.cell.toLowerCase(),
      }),
      startJob(lab(), fresh.admin, {
        ...where,
        answers: answers(list),
        counterAh: 3.2,
        scanned: job.cell,
      }),
    ]);
    expect(both.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
    const run = (await lab().store.bench.runs.one({ jobId: job.id }))!;
    expect(run).toMatchObject({ driven: false, state: 'running', counterAh: 3.2 });
    expect(run.startList.at(-1)).toEqual({ question: 'scannedAtPlace', answeredFor: 'cell' });
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
    expect(due.map(({ text }) => text).join()).toContain(`${job.cell} should be near its cut-off`);
    clock = new Date(NOW.getTime() + 30 * 3_600_000);
    expect((await reminders(lab(), technician, {})).some(({ isOverdue }) => isOverdue)).toBe(true);
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

  it('believes an answer for a set only of the one who gave it, for like cells, for four hours', async () => {
    // Past what was answered for the cells before.
    const later = new Date(NOW.getTime() + 5 * 3_600_000);
    clock = later;
    await readAmbient(lab(), technician, { celsius: 22 });
    const waiting = (await planBoard(lab(), technician, {})).jobs.filter(
      ({ state }) => state === 'waiting',
    );
    const [first, second] = [waiting[0]!, waiting[1]!];
    const on = (job: typeof first, channel: number) => ({
      jobId: job.id,
      channelId: channels[channel]!,
    });
    const carried = async (who = technician, channel = 1) =>
      (await startList(lab(), who, on(second, channel))).questions.flatMap((one) =>
        one.known ? one.question : [],
      );
    const list = await startList(lab(), technician, on(first, 0));
    expect(list.questions.every(({ known }) => !known)).toBe(true);
    const forTheSet = list.questions.map(({ question }) => ({
      question,
      answeredFor: 'set' as const,
    }));
    const refused = await failure(
      startJob(lab(), technician, { ...on(first, 0), answers: forTheSet }),
    );
    expect(refused.message).toContain('Not answered for these cells yet');
    await startJob(lab(), technician, { ...on(first, 0), answers: answers(list) });
    // On another channel only what is not of a channel; of a cell nothing ever.
    expect(await carried()).toEqual(['nothingFlammable']);
    expect((await carried(technician, 0)).sort()).toEqual([
      'currentFromZero',
      'cutoffOnInstrument',
      'fuseInLine',
      'nothingFlammable',
    ]);
    expect(await carried(fresh.admin)).toEqual([]);
    clock = new Date(later.getTime() + 4.1 * 3_600_000);
    expect(await carried()).toEqual([]);
    clock = later;
    const next = await startList(lab(), technician, on(second, 1));
    const mixed = next.questions.map(({ question, known }) => ({
      question,
      answeredFor: known ? ('set' as const) : ('cell' as const),
    }));
    const { benchRunId } = await startJob(lab(), technician, { ...on(second, 1), answers: mixed });
    const kept = (await lab().store.bench.runs.one({ id: benchRunId }))!;
    expect(kept.startList.filter(({ answeredFor }) => answeredFor === 'set')).toEqual([
      { question: 'nothingFlammable', answeredFor: 'set' },
    ]);
    clock = NOW;
  });

  it('a cell left at its cut-off is an alarm after half an hour, once, until it is charged', async () => {
    const { bench } = lab().store;
    const row = (await bench.runs.find({ state: 'running' }))[0]!;
    const discharge = row.program.findIndex(({ kind }) => kind === 'discharge');
    const endedAt = new Date(NOW.getTime() - 10 * 60_000);
    await bench.runs.update({ state: 'ended', endedAt }, { id: row.id });
    await bench.live.insert({
      benchRunId: row.id,
      lastSeq: 7,
      phase: 'ended',
      step: discharge,
      stepSinceS: 0,
      stepAh: 5,
      givenAh: 5,
      takenAh: 0,
      timeS: 9000,
      voltageV: 2.5,
      currentA: 0,
      temperatureC: 24,
      receivedAt: endedAt,
    } as never);
    const overdue = async () => {
      await raiseOverdue(lab());
      return bench.alarms.find({ code: 'rechargeOverdue', benchRunId: row.id });
    };
    expect(await overdue()).toEqual([]);
    const ofCell = (await reminders(lab(), technician, {})).filter(
      ({ kind }) => kind === 'recharge',
    );
    expect(ofCell).toMatchObject([{ benchRunId: row.id, isOverdue: false }]);
    clock = new Date(NOW.getTime() + 25 * 60_000);
    await Promise.all([raiseOverdue(lab()), raiseOverdue(lab())]);
    const [told, ...more] = await overdue();
    expect(more).toEqual([]);
    expect(told).toMatchObject({ seq: 8, action: 'tell', acknowledgedAt: null });
    expect(told!.text).toContain('for 35 min');
    const shown = (await liveBoard(lab(), technician, {})).alarms.map(({ code }) => code);
    expect(shown).toContain('rechargeOverdue');
    // On its way to be charged it is not overdue any more.
    const { id: _id, ...again } = row;
    await bench.runs.insert({ ...again, jobId: null, state: 'running', runId: null });
    expect(
      (await reminders(lab(), technician, {})).filter(({ kind }) => kind === 'recharge'),
    ).toEqual([]);
    clock = NOW;
  });
});
