import { seededRandom } from '../../statistics';
import { buildPlan, type Choices, choicesOf } from './build-plan';
import { dispatchPlan } from './dispatch-plan';
import { type LowerBound, lowerBound } from './lower-bound';
import { isBetter, type Plan, type PlanningProblem } from './problem';

/** A plan with the bound that says how good it can be. */
export interface PlannedBench {
  plan: Plan;
  bound: LowerBound;
  /** How far the plan is above the bound, as a share of it; 0 where there is nothing to do. */
  gap: number;
  /** Orders of jobs that were tried. */
  tried: number;
}

/** Seed and effort of a plan; the same ones give the same plan. */
export interface PlanOptions {
  seed: number;
  /** Orders of jobs to try; the same number and seed give the same plan. */
  tries?: number;
  /** Asked between tries: what there is then counts. */
  shouldStop?: () => boolean;
  /** Told of each better plan. */
  onBetter?: (plan: Plan) => void;
}

const USUAL_TRIES = 160;
/** A plan this close to its bound is not looked at further. */
const CLOSE_ENOUGH = 1.002;

const shortest = (durationS: readonly number[]) =>
  durationS.reduce((a, b) => Math.min(a, b), Infinity);

/** Orders that are good in many cases: due first, longest first, shortest first, attended first. */
function firstOrders({ jobs }: PlanningProblem, choices: Choices): number[][] {
  const work = jobs.map((job) => job.legs.reduce((sum, leg) => sum + shortest(leg.durationS), 0));
  const span = jobs.map(
    (job, i) => work[i]! + job.legs.reduce((sum, leg) => sum + leg.restBeforeS, 0),
  );
  const freedom = choices.map((legs) =>
    legs.reduce((least, list) => Math.min(least, list.length), Infinity),
  );
  const needs = jobs.map((job) => (job.legs.some((leg) => leg.attendedShare > 0) ? 0 : 1));
  const due = jobs.map((job, i) => (job.dueS === null ? Infinity : job.dueS - span[i]!));
  const indices = jobs.map((_, i) => i);
  const by = (...keys: ((i: number) => number)[]) =>
    [...indices].sort((a, b) => {
      for (const key of keys) {
        const [x, y] = [key(a), key(b)];
        if (x !== y) return x < y ? -1 : 1;
      }
      return a - b;
    });
  const release = (i: number) => jobs[i]!.releaseS;
  return [
    by(
      (i) => due[i]!,
      (i) => -span[i]!,
    ),
    by(
      (i) => due[i]!,
      (i) => needs[i]!,
      (i) => freedom[i]!,
      (i) => -span[i]!,
    ),
    by((i) => -span[i]!),
    by(
      (i) => freedom[i]!,
      (i) => -work[i]!,
    ),
    by(
      (i) => needs[i]!,
      (i) => -work[i]!,
    ),
    by(release, (i) => -work[i]!),
    by(release, (i) => work[i]!),
    by((i) => work[i]!),
  ];
}

/** Moves some jobs of an order elsewhere: a few at random, or those that are late or last to the front. */
function changed(
  order: readonly number[],
  plan: Plan,
  problem: PlanningProblem,
  random: () => number,
): number[] {
  const n = order.length;
  const next = [...order];
  if (random() < 0.35) {
    // Those that end last go earlier.
    const end = new Map<number, number>();
    for (const { job, toS } of plan.placements) end.set(job, Math.max(end.get(job) ?? 0, toS));
    const last = order
      .map((index, at) => ({ at, toS: end.get(problem.jobs[index]!.id) ?? Infinity }))
      .sort((a, b) => b.toS - a.toS);
    const { at } = last[Math.floor(random() * Math.min(n, 6))]!;
    const [job] = next.splice(at, 1);
    next.splice(Math.floor(random() * (at + 1)), 0, job!);
    return next;
  }
  const moves = 1 + Math.floor(random() * Math.max(1, Math.min(8, n / 12)));
  for (let k = 0; k < moves; k++) {
    const [job] = next.splice(Math.floor(random() * n), 1);
    next.splice(Math.floor(random() * n), 0, job!);
  }
  return next;
}

/** Share of the tries in which channels choose what suits the hour. */
const DISPATCHED = 0.3;
const FIRST_WEIGHTS = { waste: 1, length: 0, scarcity: 0, urgency: 2, noise: 0 };

const drawnWeights = (draw: () => number) => ({
  waste: 0.5 + draw(),
  length: draw() < 0.4 ? 0 : draw(),
  scarcity: draw() < 0.5 ? 0 : 0.6 * draw(),
  urgency: 1 + 3 * draw(),
  noise: 0.3 * draw(),
});

/** Jobs in the order in which a plan starts them. */
function orderOf({ jobs }: PlanningProblem, { placements }: Plan): number[] {
  const starts = new Map<number, number>();
  for (const { job, fromS } of placements)
    starts.set(job, Math.min(starts.get(job) ?? Infinity, fromS));
  const startOf = (index: number) => starts.get(jobs[index]!.id) ?? Infinity;
  return jobs.map((_, i) => i).sort((a, b) => startOf(a) - startOf(b) || a - b);
}

/**
 * A plan of the bench: late jobs first, then the least total finishing time. Starts from orders
 * that are usually good and goes on by small changes, keeping what is better.
 */
export function planBench(problem: PlanningProblem, options: PlanOptions): PlannedBench {
  const { seed, tries = USUAL_TRIES, shouldStop = () => false, onBetter } = options;
  const choices = choicesOf(problem);
  const bound = lowerBound(problem);
  const random = seededRandom(seed);
  const draw = () => random.uniform();
  let best: { order: number[]; plan: Plan } | null = null;
  let here: { order: number[]; plan: Plan } | null = null;
  let tried = 0;
  const attempt = (order: number[]) => {
    const plan = buildPlan(problem, order, choices);
    tried++;
    if (!best || isBetter(plan, best.plan)) {
      best = { order, plan };
      onBetter?.(plan);
    }
    return { order, plan };
  };
  const done = () =>
    shouldStop() ||
    (best !== null &&
      best.plan.latenessS === 0 &&
      best.plan.impossible.length === 0 &&
      best.plan.finishS <= bound.finishS * CLOSE_ENOUGH);
  for (const order of firstOrders(problem, choices)) {
    const one = attempt(order);
    if (!here || isBetter(one.plan, here.plan)) here = one;
    if (done()) break;
  }
  // Pinned legs are only known to the other way of building.
  const free = problem.pinned.length === 0 ? problem.jobs.map((_, i) => i) : [];
  for (let i = 0; i < tries * DISPATCHED && free.length > 1 && !done(); i++) {
    const weights = i === 0 ? FIRST_WEIGHTS : drawnWeights(draw);
    const noise = problem.jobs.map(() => weights.noise * draw());
    const plan = dispatchPlan(problem, free, { choices, weights: { ...weights, noise } });
    tried++;
    if (!plan) continue;
    const order = orderOf(problem, plan);
    if (!best || isBetter(plan, best.plan)) {
      best = { order, plan };
      onBetter?.(plan);
    }
    // Placed again in the order of their starts, legs move forward into what was left free.
    const again = attempt(order);
    const better = isBetter(plan, again.plan) ? { order, plan } : again;
    if (isBetter(better.plan, here!.plan)) here = better;
  }
  while (tried < tries && problem.jobs.length > 1 && !done()) {
    const one = attempt(changed(here!.order, here!.plan, problem, draw));
    // As good is taken, too: it leads away from where nothing gets better.
    if (!isBetter(here!.plan, one.plan)) here = one;
  }
  const { plan } = best!;
  return {
    plan,
    bound,
    gap: bound.finishS > 0 && plan.placements.length > 0 ? plan.finishS / bound.finishS - 1 : 0,
    tried,
  };
}

/** What one more channel like an existing one would save. */
export interface OneMore {
  channel: number;
  savedS: number;
}

/** The channel of which one more would bring the end forward most; null where none would. */
export function oneMoreChannel(
  problem: PlanningProblem,
  planned: PlannedBench,
  seed: number,
): OneMore | null {
  const seen = new Set<string>();
  let best: OneMore | null = null;
  problem.channels.forEach((_, channel) => {
    const like = JSON.stringify(
      problem.jobs.map((job) => job.legs.map((leg) => leg.durationS[channel])),
    );
    if (seen.has(like)) return;
    seen.add(like);
    const wider: PlanningProblem = {
      ...problem,
      channels: [...problem.channels, { id: -1, taken: [] }],
      jobs: problem.jobs.map((job) => ({
        ...job,
        legs: job.legs.map((leg) => ({
          ...leg,
          durationS: [...leg.durationS, leg.durationS[channel]!],
        })),
      })),
    };
    const { plan } = planBench(wider, { seed, tries: Math.min(24, Math.max(8, planned.tried)) });
    const savedS = planned.plan.finishS - plan.finishS;
    if (savedS > 60 && (!best || savedS > best.savedS)) best = { channel, savedS };
  });
  return best;
}
