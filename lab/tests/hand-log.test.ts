import { randomUUID } from 'node:crypto';
import type { PointField } from '@dusk-tally/core/evidence';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  planBoard,
  readAmbient,
  reminders,
  setChannelLimits,
  startJob,
  startList,
} from '../src/bench';
import { recordReadings } from '../src/evidence';
import {
  endHandLog,
  handLogView,
  handRound,
  keepHandPoints,
  setHandLog,
  takeBackHandPoint,
} from '../src/gathering';
import { dueItems, openLots } from '../src/today';
import { lotCells } from '../src/verdicts';
import { ABLE, type BenchLab, benchLab, listEight, NOW } from '../testing/bench-lab';
import { failure } from '../testing/failure';

const MIN = 60_000;

describe('a hand log', () => {
  let { fresh, lotId, technician, channels } = {} as BenchLab;
  let clock = NOW;
  const lab = () => fresh.lab;
  beforeAll(async () => {
    const made = await benchLab(() => clock);
    ({ fresh, lotId, technician, channels } = made);
    await listEight(made);
    await readAmbient(lab(), technician, { celsius: 25 });
    for (const { id: channelId, version } of (await planBoard(lab(), technician, {})).channels)
      await setChannelLimits(lab(), fresh.admin, {
        channelId,
        version,
        limits: { ...ABLE, wires: 2, leadPlusMohm: 0, leadMinusMohm: 0 },
        wiring: null,
      });
  });
  afterAll(() => fresh.close());

  /** Starts the next job of the list on a channel nobody drives. */
  async function begin(channelId: number) {
    const job = (await planBoard(lab(), technician, {})).jobs[0]!;
    const where = { jobId: job.id, channelId };
    const list = await startList(lab(), technician, where);
    const { benchRunId } = await startJob(lab(), technician, {
      ...where,
      answers: list.questions.map(({ question }) => ({ question, answeredFor: 'cell' as const })),
    });
    return { benchRunId, cell: job.cell };
  }

  const at = (minutes: number) => new Date(NOW.getTime() + minutes * MIN);
  const pointOf = (
    minutes: number,
    values: Partial<Record<PointField, number>>,
    more: object = {},
  ) => ({
    at: at(minutes).toISOString(),
    values,
    decimals: Object.fromEntries(
      Object.entries(values).map(([field, value]) => [
        field,
        String(value).split('.')[1]?.length ?? 0,
      ]),
    ),
    clientKey: randomUUID(),
    ...more,
  });
  const keep = (benchRunId: number, ...points: ReturnType<typeof pointOf>[]) =>
    keepHandPoints(lab(), technician, { benchRunId, points });
  const view = (benchRunId: number) => handLogView(lab(), technician, { benchRunId });
  const standing = async (cell: string) =>
    (await lotCells(lab(), technician, { lotId })).find(({ number }) => number === cell)!;

  let run = {} as Awaited<ReturnType<typeof begin>>;

  it('needs to know when the load came on, and refuses what cannot be', async () => {
    run = await begin(channels[0]!);
    const { benchRunId } = run;
    expect((await view(benchRunId)).recipe.setA).toBeGreaterThan(0);
    expect((await failure(keep(benchRunId, pointOf(1, { shownV: 3.2 })))).message).toContain(
      'when the load came on',
    );
    const set = { benchRunId, version: 0, setA: 1.2, setCutoffV: 2.5, countAtStartAh: 0 };
    expect(
      (await failure(setHandLog(lab(), technician, { ...set, loadOnAt: at(60).toISOString() })))
        .message,
    ).toContain('came on already');
    await setHandLog(lab(), technician, { ...set, loadOnAt: NOW.toISOString() });
    const second = setHandLog(lab(), fresh.admin, { ...set, loadOnAt: NOW.toISOString() });
    expect((await failure(second)).code).toBe('conflict');
    clock = at(6);
    expect((await failure(keep(benchRunId, pointOf(30, { shownV: 3 })))).message).toContain(
      'and now',
    );
    expect((await failure(keep(benchRunId, pointOf(5, {})))).message).toContain('at least one');
    expect((await failure(keep(benchRunId, pointOf(5, { cellV: 33 })))).message).toContain(
      'At the cell: expected 0 to 10 V',
    );
    expect((await view(benchRunId)).points).toEqual([]);
  });

  it('tells leads, the cut-off to set and when to be there from the first point, stored once', async () => {
    const { benchRunId } = run;
    const first = pointOf(5, { shownV: 3.24, shownA: 1.2, shownAh: 0.1, cellV: 3.264 });
    expect(await keep(benchRunId, first)).toEqual({ stored: 1 });
    expect(await keep(benchRunId, first), 'sent again').toEqual({ stored: 0 });
    const { says, points } = await view(benchRunId);
    expect(points).toHaveLength(1);
    expect(points[0]).toMatchObject({ by: 'Tamsin', atS: 300 });
    expect(says!.lead).toMatchObject({ from: 'points' });
    expect(says!.lead.mohm).toBeCloseTo(20, 0);
    expect(says!.advice).toContain('2.48 V');
    expect(says!.soFar).toMatchObject({ ah: 0.1, bound: 'atLeast' });
    expect(says!.forecast!.endS.middle).toBeCloseTo(5 * 3600, -2);
  });

  it('asks what does not fit before it is kept; kept despite, it says so; taken back, it is gone', async () => {
    const { benchRunId } = run;
    clock = at(60);
    const odd = pointOf(60, { shownA: 1.2, shownAh: 0.12 });
    expect((await failure(keep(benchRunId, odd))).message).toContain('Counter');
    await keep(benchRunId, { ...odd, keptDespite: 'as shown' } as never);
    const seen = await view(benchRunId);
    expect(seen.says!.doubts.map(({ code }) => code)).toContain('counter-and-current');
    await takeBackHandPoint(lab(), technician, { pointId: seen.points[1]!.id });
    const after = await view(benchRunId);
    expect(after.says!.doubts).toEqual([]);
    expect(after.points[1]).toMatchObject({ takenBack: true, keptDespite: 'as shown' });
  });

  it('the round leads from tester to tester, says what is late, and is on Today in its stead', async () => {
    const { benchRunId, cell } = run;
    const other = await begin(channels[1]!);
    clock = at(200);
    const { stops } = await handRound(lab(), technician, {});
    expect(stops.map((stop) => stop.benchRunId)).toEqual([benchRunId, other.benchRunId]);
    expect(stops[0]).toMatchObject({ cell, hasLog: true, isLate: true, channel: 'Place 1' });
    expect(stops[1]).toMatchObject({ hasLog: false, nextAt: null });
    const due = await dueItems(lab(), await openLots(lab()));
    expect(due.find(({ kind }) => kind === 'point')).toMatchObject({ urgency: 'now' });
    expect(due.find(({ kind }) => kind === 'beThere')!.note).toContain('Be at Place 1');
    const told = await reminders(lab(), technician, {});
    expect(
      told
        .filter((one) => one.cell === cell)
        .map(({ text }) => text)
        .join(),
    ).not.toContain('near its cut-off');
  });

  it('its end is the capacity of the cell: with limits, at the claim’s cut-off, and nothing else moves', async () => {
    const { benchRunId, cell } = run;
    const others = async () =>
      (await lotCells(lab(), technician, { lotId })).filter(({ number }) => number !== cell);
    const before = await others();
    clock = at(300);
    await keep(
      benchRunId,
      pointOf(150, { shownV: 3.16, shownA: 1.2, shownAh: 3.0, cellV: 3.184 }),
      pointOf(280, { shownV: 2.9, shownA: 1.2, shownAh: 5.6, cellV: 2.924 }),
    );
    expect((await view(benchRunId)).says!.soFar.bound).toBe('atLeast');
    await keep(
      benchRunId,
      pointOf(298, { shownV: 2.43, shownA: 1.2, shownAh: 5.96, cellV: 2.454 }),
    );
    const ended = await endHandLog(lab(), technician, { benchRunId });
    expect(ended.bound).toBe('exact');
    expect(ended.capacityAh).toBeGreaterThan(5.9);
    expect(ended.capacityAh).toBeLessThan(5.96);
    expect((await failure(endHandLog(lab(), technician, { benchRunId }))).code).toBe('conflict');
    const line = await standing(cell);
    const [figure] = await lab().store.figures.find({ id: line.capacityFigureId! });
    expect(figure!.detail.method.name).toMatch(/^(hand-log|capacity-at-claimed-conditions)$/);
    expect(line.capacityAh ?? figure!.value).toBeCloseTo(ended.capacityAh, 1);
    expect(await others()).toEqual(before);
    const stored = (await lab().store.bench.runs.one({ id: benchRunId }))!;
    expect(stored).toMatchObject({ state: 'stored', completed: true });
  });

  it('a point corrected after the end moves the figure; a cell read anew in the grid stands by that', async () => {
    const { benchRunId, cell } = run;
    const before = await standing(cell);
    const last = (await view(benchRunId)).points.findLast(({ takenBack }) => !takenBack)!;
    await takeBackHandPoint(lab(), technician, { pointId: last.id });
    clock = at(310);
    await keep(
      benchRunId,
      pointOf(298, { shownV: 2.43, shownA: 1.2, shownAh: 5.86, cellV: 2.454 }),
    );
    const after = await standing(cell);
    expect(after.capacityFigureId).not.toBe(before.capacityFigureId);
    const [figure] = await lab().store.figures.find({ id: after.capacityFigureId! });
    expect(figure!.value).toBeLessThan(5.9);
    const cellId = after.id;
    const readings = await lab().store.evidence.latestReadings(lotId, [cellId]);
    const standingKey = readings.find(({ kind }) => kind === 'capacity')!.clientKey;
    await recordReadings(lab(), technician, {
      lotId,
      readings: [
        {
          cellId,
          kind: 'capacity',
          value: 5.5,
          decimals: 2,
          clientKey: randomUUID(),
          over: standingKey,
        },
      ],
    });
    expect((await standing(cell)).capacityAh).toBe(5.5);
    // The hand log stays as it is, and is made new without coming back.
    await takeBackHandPoint(lab(), technician, {
      pointId: (await view(benchRunId)).points[0]!.id,
    });
    expect((await standing(cell)).capacityAh).toBe(5.5);
  });

  it('a tester that only told its last number is worth less, and says so', async () => {
    const other = (await handRound(lab(), technician, {})).stops[0]!;
    const { benchRunId } = other;
    await setHandLog(lab(), technician, {
      benchRunId,
      version: 0,
      loadOnAt: at(205).toISOString(),
      setA: 1.2,
      setCutoffV: 2.5,
      countAtStartAh: 0,
    });
    expect((await failure(endHandLog(lab(), technician, { benchRunId }))).message).toContain(
      'Expected at least one point',
    );
    clock = at(500);
    await keep(benchRunId, pointOf(495, { shownAh: 5.8 }, { isStop: true }));
    const [stopped] = (await dueItems(lab(), await openLots(lab()))).filter(
      ({ kind }) => kind === 'stopped',
    );
    expect(stopped).toMatchObject({ urgency: 'now', path: `/bench/runs/${benchRunId}` });
    const { says } = await view(benchRunId);
    expect(says!.soFar.steps.join(' ')).toContain('nobody read a point before');
    await endHandLog(lab(), technician, { benchRunId, note: 'read in the morning' });
    expect((await handRound(lab(), technician, {})).stops).toEqual([]);
  });
});
