import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { changeClaim } from '../src/arrivals';
import {
  agentOrders,
  benchRunView,
  liveBoard,
  planAll,
  planBoard,
  readAmbient,
  setChannelLimits,
  startJob,
  startList,
} from '../src/bench';
import { handLogView, handRound, keepHandPoints, setHandLog } from '../src/gathering';
import { dueCounts, dueItems, openLots, today } from '../src/today';
import { ABLE, type BenchLab, benchLab, listEight, NOW } from '../testing/bench-lab';
import { failure } from '../testing/failure';

/** A claim that lost its capacity while cells of its lot are on the bench, on the list and in a round. */
describe('a lot whose capacity is no longer claimed', () => {
  let bench = {} as BenchLab;
  let byHand = 0;
  let clock = NOW;
  const lab = () => bench.fresh.lab;
  const lot = async () => (await openLots(lab()))[0]!;
  const claim = async (capacityAh: number | null) => {
    const { id: lotId, version } = await lot();
    const capacity = { kind: 'capacity' as const, conditions: { rateIt: 0.2, cutoffV: 2.5 } };
    await changeClaim(lab(), bench.fresh.admin, {
      lotId,
      version,
      claim: [
        ...(capacityAh === null ? [] : [{ ...capacity, value: capacityAh }]),
        { kind: 'acResistance', value: 0.5 },
      ],
    });
  };
  beforeAll(async () => {
    bench = await benchLab(() => clock);
    await listEight(bench);
    const { technician, fresh } = bench;
    await readAmbient(lab(), technician, { celsius: 25 });
    const [first, second] = (await planBoard(lab(), technician, {})).channels;
    await setChannelLimits(lab(), fresh.admin, {
      channelId: second!.id,
      version: second!.version,
      limits: ABLE,
      wiring: { load: 'load:5025', supply: 'load:5026', thermometer: null, resistanceMeter: null },
      agent: 'bench',
    });
    const start = async (channelId: number) => {
      const where = { jobId: (await planBoard(lab(), technician, {})).jobs[0]!.id, channelId };
      const { questions } = await startList(lab(), technician, where);
      const answers = questions.map(({ question }) => ({
        question,
        answeredFor: 'cell' as const,
      }));
      return (await startJob(lab(), technician, { ...where, answers })).benchRunId;
    };
    byHand = await start(first!.id);
    await start(second!.id);
    await setHandLog(lab(), technician, {
      ...{ benchRunId: byHand, version: 0, setA: 1.2, setCutoffV: 2.5, countAtStartAh: 0 },
      loadOnAt: NOW.toISOString(),
    });
    clock = new Date(NOW.getTime() + 10 * 60_000);
    await keepHandPoints(lab(), technician, {
      benchRunId: byHand,
      points: [
        {
          at: clock.toISOString(),
          values: { shownV: 3.25, shownA: 1.2, shownAh: 0.2, cellV: 3.26 },
          decimals: { shownV: 2, shownA: 2, shownAh: 3, cellV: 3 },
          clientKey: '00000000-0000-4000-8000-00000000beef',
        },
      ],
    });
    await planAll(lab(), technician, { seed: 3 });
  });
  afterAll(() => bench.fresh.close());

  it('breaks no page, and says at each job and at the lot what is missing', async () => {
    await claim(null);
    const { technician } = bench;
    const { items } = await today(lab(), technician, {});
    expect(items.map(({ kind }) => kind)).toContain('noClaim');
    expect(items.map(({ kind }) => kind)).not.toContain('connect');
    expect((await dueCounts(lab(), technician, {})).arrivals!.all).toBeGreaterThan(0);
    const { jobs } = await planBoard(lab(), technician, {});
    expect(jobs.length).toBe(6);
    for (const { problem } of jobs) expect(problem).toMatch(/^L-\d+ claims no capacity/);
    const { impossible } = await planAll(lab(), technician, { seed: 3 });
    expect(impossible.map(({ reason }) => reason)).toEqual(
      jobs.map(() => expect.stringContaining('Enter the claim first.')),
    );
    const where = { jobId: jobs[0]!.id, channelId: bench.channels[2]! };
    expect((await failure(startList(lab(), technician, where))).message).toContain('no capacity');
  });

  it('what is under way goes on: its agent has its orders, its points come due', async () => {
    const { technician, fresh } = bench;
    await expect(liveBoard(lab(), technician, {})).resolves.toBeDefined();
    const orders = await agentOrders(lab(), fresh.admin, {
      ...{ agent: 'bench', instance: 'a-first-one', speed: 1, runs: [], done: [] },
    });
    expect(orders.start.map(({ expected }) => expected.chemistry)).toEqual(['LFP']);
    expect(orders.drop).toEqual([]);
    const view = await benchRunView(lab(), technician, { id: orders.start[0]!.run });
    expect(view.cutoffV).toBe(2.5);
    const { stops } = await handRound(lab(), technician, {});
    expect(stops.map(({ nextAt }) => nextAt !== null)).toEqual([true]);
    const log = await handLogView(lab(), technician, { benchRunId: byHand });
    expect(log.claimedAh).toBeNull();
    expect(log.says!.soFar.ah).toBeCloseTo(0.2, 2);
    expect(log.says!.enough).toEqual({ kind: 'open' });
  });

  it('is as before once it is claimed again', async () => {
    await claim(6);
    const { jobs } = await planBoard(lab(), bench.technician, {});
    expect(jobs.map(({ problem }) => problem)).toEqual(jobs.map(() => null));
    expect((await planAll(lab(), bench.technician, { seed: 3 })).impossible).toEqual([]);
    const kinds = (await dueItems(lab(), await openLots(lab()))).map(({ kind }) => kind);
    expect(kinds).toContain('connect');
    expect(kinds).not.toContain('noClaim');
  });
});
