import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  lowerBound,
  oneMoreChannel,
  type Placement,
  planBench,
  planFaults,
  type PlanningProblem,
} from '../src/bench';
import { attendedHours, seededBench } from '../testing/seeded-bench';

const HOUR = 3600;
const DAY = 24 * HOUR;

/** Ends of every schedule that puts jobs of one leg on channels one after the other, least of them. */
function bestOfAll(problem: PlanningProblem): number {
  const { jobs, channels, attended } = problem;
  const go = (left: number[], free: number[], end: number): number => {
    if (left.length === 0) return end;
    let best = Infinity;
    for (const index of left) {
      const leg = jobs[index]!.legs[0]!;
      channels.forEach((_, channel) => {
        const durationS = leg.durationS[channel]!;
        if (!Number.isFinite(durationS)) return;
        const ready = Math.max(free[channel]!, jobs[index]!.releaseS);
        const window = attended.find(
          ({ fromS, toS }) =>
            toS >= ready && Math.max(fromS, ready) + leg.attendedShare * durationS <= toS,
        );
        if (!window) return;
        const endS = Math.max(window.fromS, ready) + durationS;
        best = Math.min(
          best,
          go(
            left.filter((one) => one !== index),
            free.map((one, c) => (c === channel ? endS : one)),
            Math.max(end, endS),
          ),
        );
      });
    }
    return best;
  };
  return go(
    jobs.map((_, i) => i),
    channels.map(() => 0),
    0,
  );
}

const small = (seed: number, jobs: number, channels: number): PlanningProblem => ({
  ...seededBench(seed, { jobs, channels, days: 30, arriving: false }),
});

describe('the planner', () => {
  it('breaks no rule, whatever is asked of it', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 1e6 }),
        fc.integer({ min: 1, max: 60 }),
        fc.integer({ min: 1, max: 9 }),
        (seed, jobs, channels) => {
          const problem = seededBench(seed, { jobs, channels });
          const { plan, bound } = planBench(problem, { seed, tries: 20 });
          expect(planFaults(problem, plan.placements)).toEqual([]);
          const placed = new Set(plan.placements.map(({ job }) => job));
          expect(placed.size + plan.impossible.length).toBe(jobs);
          if (plan.impossible.length === 0)
            expect(plan.finishS).toBeGreaterThanOrEqual(bound.finishS - 1);
        },
      ),
      { numRuns: 40 },
    );
  });
  it('its bound lies below the best of all schedules, its plan not far above', () => {
    for (let seed = 1; seed <= 30; seed++) {
      const made = small(seed, 4, 2);
      const problem = {
        ...made,
        channels: made.channels.map((channel) => ({ ...channel, taken: [] })),
        jobs: made.jobs.map((job) => ({
          ...job,
          dueS: null,
          legs: [
            {
              attendedShare: seed % 3 === 0 ? 1 : seed % 3 === 1 ? 0.4 : 0,
              restBeforeS: 0,
              durationS: [seed * 200 + job.id * 5000, seed * 260 + job.id * 4400],
            },
          ],
        })),
      };
      const best = bestOfAll(problem);
      const { plan, bound } = planBench(problem, { seed });
      expect(bound.finishS).toBeLessThanOrEqual(best + 1);
      expect(plan.finishS).toBeGreaterThanOrEqual(best - 1);
      expect(plan.finishS).toBeLessThanOrEqual(best * 1.1);
    }
  });
  it('gives the same plan from the same seed', () => {
    const problem = small(3, 40, 6);
    const [one, two] = [
      planBench(problem, { seed: 9, tries: 40 }),
      planBench(problem, { seed: 9, tries: 40 }),
    ];
    expect(two).toEqual(one);
  });
  it('stops when it is told to, with what it has', () => {
    const problem = small(4, 60, 6);
    let asked = 0;
    const { plan, tried } = planBench(problem, { seed: 1, shouldStop: () => ++asked > 2 });
    expect(tried).toBeLessThan(6);
    expect(planFaults(problem, plan.placements)).toEqual([]);
  });
  it('plans six weeks of lots within 5 % of what is possible', () => {
    for (let seed = 1; seed <= 10; seed++) {
      const problem = seededBench(seed, { arriving: true });
      const { plan, gap } = planBench(problem, { seed });
      expect(plan.impossible).toEqual([]);
      expect(planFaults(problem, plan.placements)).toEqual([]);
      expect(gap).toBeLessThanOrEqual(0.05);
    }
  });
  it('puts what must be watched wholly into attended hours', () => {
    const problem: PlanningProblem = {
      jobs: [1, 2, 3].map((id) => ({
        id,
        releaseS: 0,
        dueS: null,
        priority: 1,
        legs: [{ durationS: [6 * HOUR], attendedShare: 1, restBeforeS: 0 }],
      })),
      channels: [{ id: 1, taken: [] }],
      attended: attendedHours(10),
      pinned: [],
    };
    const { plan } = planBench(problem, { seed: 1 });
    expect(plan.placements.map(({ fromS }) => fromS / DAY)).toEqual(
      [0, 1, 2].map((day) => day + 8 / 24),
    );
    const tooLong = {
      ...problem,
      jobs: [
        {
          ...problem.jobs[0]!,
          legs: [{ durationS: [11 * HOUR], attendedShare: 1, restBeforeS: 0 }],
        },
      ],
    };
    expect(planBench(tooLong, { seed: 1 }).plan.impossible[0]!.reason).toContain('attended');
  });
  it('leaves what is pinned where it is and plans around it', () => {
    const problem = small(5, 12, 3);
    const first = planBench(problem, { seed: 1 }).plan;
    const one = first.placements.find(({ leg }) => leg === 0)!;
    const pinned: Placement = { ...one, fromS: one.fromS + 7 * DAY, toS: one.toS + 7 * DAY };
    const again = planBench({ ...problem, pinned: [pinned] }, { seed: 1 }).plan;
    expect(again.placements.find(({ job, leg }) => job === one.job && leg === one.leg)).toEqual(
      pinned,
    );
    expect(planFaults(problem, again.placements)).toEqual([]);
  });
  it('says why a place does not fit', () => {
    const problem = small(6, 6, 3);
    const { plan } = planBench(problem, { seed: 1 });
    const [one, two] = [
      plan.placements[0]!,
      plan.placements.find(({ job }) => job !== plan.placements[0]!.job)!,
    ];
    const moved = (patch: Partial<Placement>) =>
      planFaults(
        problem,
        plan.placements.map((other) => (other === one ? { ...one, ...patch } : other)),
      ).map(({ reason }) => reason);
    expect(moved({ fromS: 2 * HOUR, toS: 2 * HOUR + one.toS - one.fromS }).join()).toContain(
      'Nobody is there',
    );
    expect(
      moved({ channel: two.channel, fromS: two.fromS, toS: two.fromS + (one.toS - one.fromS) })
        .length,
    ).toBeGreaterThan(0);
    expect(moved({ toS: one.toS + HOUR }).join()).toContain('another time');
  });
  it('says what one more channel would save', () => {
    const problem: PlanningProblem = {
      jobs: Array.from({ length: 8 }, (_, i) => ({
        id: i + 1,
        releaseS: 0,
        dueS: null,
        priority: 1,
        legs: [{ durationS: [20 * HOUR], attendedShare: 0, restBeforeS: 0 }],
      })),
      channels: [{ id: 1, taken: [] }],
      attended: attendedHours(30, { weekends: true }),
      pinned: [],
    };
    const planned = planBench(problem, { seed: 1 });
    expect(oneMoreChannel(problem, planned, 1)!.savedS).toBeGreaterThan(3 * DAY);
    expect(lowerBound(problem).finishS).toBeGreaterThan(7 * DAY);
  });
});
