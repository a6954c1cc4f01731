import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { mayAct, systemActor } from '../src';
import { liveBoard, planBoard, takeRecords } from '../src/bench';
import { foldEnded } from '../src/gathering';
import { findingViews } from '../src/arrivals';
import { listPeople, makeFirstAdmin, setPersonActive } from '../src/people';
import { cellPage } from '../src/verdicts';
import { type BenchLab, benchLab, listEight, NOW } from '../testing/bench-lab';
import { failure } from '../testing/failure';

describe('what the system does', () => {
  let bench = {} as BenchLab;
  const lab = () => bench.fresh.lab;
  beforeAll(async () => {
    bench = await benchLab(() => NOW);
    await listEight(bench);
  });
  afterAll(() => bench.fresh.close());

  it('is not a person’s: nobody sees, lets in or shuts out the system', async () => {
    const system = await systemActor(lab());
    expect(system).toMatchObject({ name: 'system', role: 'system' });
    const people = await listPeople(lab(), bench.fresh.admin, {});
    expect(people.map(({ id }) => id)).not.toContain(system.id);
    expect(
      (await failure(setPersonActive(lab(), bench.fresh.admin, { id: system.id, active: true })))
        .code,
    ).toBe('notFound');
    expect(mayAct('system', 'lead')).toBe(true);
    expect(mayAct('system', 'admin')).toBe(false);
    expect(
      await makeFirstAdmin(lab(), {
        email: 'late@lab.example',
        name: 'Late',
        role: 'admin',
        password: 'a long enough password',
      }),
    ).toBe(false);
  });

  it('blocks a heater and takes evidence in under its own name, for whom began the run', async () => {
    const [version] = await lab().store.bench.recipeVersions.find({});
    const cell = bench.cells[0]!;
    const { id } = await lab().store.bench.runs.insert({
      jobId: null,
      cellId: cell.id,
      lotId: bench.lotId,
      channelId: null,
      recipeVersionId: version!.id,
      program: [
        {
          kind: 'discharge',
          mode: 'current',
          set: 6,
          cutoffV: 2.5,
          maxS: 7200,
          limitAh: null,
          endsByTime: false,
        },
      ],
      limits: { highV: 3.65, lowV: 2, ambientC: 22, intervalS: 10 },
      startList: [],
      driven: true,
      state: 'running',
      agent: 'bench',
      speed: 1,
      chemistry: 'LFP',
      expectedAh: 6,
      startSoc: 0.9,
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
    const at = (seq: number, more: object) => ({ run: id, seq, timeS: seq * 10, step: 0, ...more });
    const readings = Array.from({ length: 360 }, (_, i) =>
      at(i + 1, {
        kind: 'reading',
        voltageV: 3.3 - (i / 360) * 0.3 - (i > 340 ? (i - 340) * 0.03 : 0),
        currentA: -6,
        temperatureC: 23,
        counterAh: null,
      }),
    );
    await takeRecords(lab(), bench.technician, {
      agent: 'bench',
      instance: 'instance-1',
      batch: 1,
      records: [
        ...readings,
        at(361, {
          kind: 'event',
          event: { event: 'alarm', code: 'heatOnCharge', action: 'block', text: 'It is hot.' },
        }),
        at(362, { kind: 'event', event: { event: 'ended', reason: 'Stopped.', completed: false } }),
      ],
    });
    const [heater] = await findingViews(lab(), { lotId: bench.lotId, cellId: cell.id });
    expect(heater).toMatchObject({ code: 'heater', person: 'system' });
    await foldEnded(lab());
    const entries = await lab().store.auditEntries.find({ act: 'took in log' });
    expect(entries.map(({ personName }) => personName)).toEqual(['system']);
    const page = await cellPage(lab(), bench.technician, { number: cell.number });
    expect(page.runs[0]!.person).toBe('Tamsin');
  });

  it('asking changes nothing: the board is only looked at', async () => {
    const counts = async () =>
      Promise.all([
        lab().store.auditEntries.count({}),
        lab().store.bench.alarms.count({}),
        lab().store.bench.runs.count({ state: 'stored' }),
      ]);
    const before = await counts();
    await liveBoard(lab(), bench.technician, {});
    await planBoard(lab(), bench.technician, {});
    expect(await counts()).toEqual(before);
  });
});
