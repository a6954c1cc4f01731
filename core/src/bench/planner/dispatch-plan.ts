import type { Choices } from './build-plan';
import type { Placement, Plan, PlanningProblem, Span } from './problem';
import { Timeline } from './timeline';

/** What weighs how much when a free channel chooses its next leg. */
export interface DispatchWeights {
  /** Share of a channel’s time that is lost until somebody is there again. */
  waste: number;
  /** Long before short. */
  length: number;
  /** Jobs few channels can take before those many can. */
  scarcity: number;
  /** Near its day before far. */
  urgency: number;
  /** By job: a little of chance. */
  noise: readonly number[];
}

/** When somebody is there next, at or after a time, s. */
function nextAttended(windows: readonly Span[], atS: number): number {
  let [low, high] = [0, windows.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (windows[middle]!.toS < atS) low = middle + 1;
    else high = middle;
  }
  const window = windows[low];
  return window ? Math.max(atS, window.fromS) : Infinity;
}

/** A job on its way: its next leg and from when that may start. */
interface Going {
  index: number;
  leg: number;
  readyS: number;
}

const DAY_S = 86_400;

/** How badly a leg suits a channel at an hour: lost nights and scarce channels against length and what is due. */
function scoreOf(
  { jobs, channels, attended }: PlanningProblem,
  { choices, weights, longest }: { choices: Choices; weights: DispatchWeights; longest: number },
  { index, leg }: Going,
  { atS, durationS }: { atS: number; durationS: number },
): number {
  const job = jobs[index]!;
  const endS = atS + durationS;
  const lost = Math.min(nextAttended(attended, endS) - endS, 3 * DAY_S);
  const score =
    (weights.waste * lost) / (durationS + lost) -
    (weights.length * durationS) / longest +
    (weights.scarcity * choices[index]![leg]!.length) / channels.length +
    weights.noise[index]!;
  if (job.dueS === null) return score;
  let restS = durationS;
  for (let next = leg + 1; next < job.legs.length; next++)
    restS += job.legs[next]!.restBeforeS + job.legs[next]!.durationS[choices[index]![next]![0]!]!;
  const slackDays = (job.dueS - atS - restS) / DAY_S;
  return slackDays < 3 ? score - weights.urgency * job.priority * (1 - slackDays / 3) : score;
}

/**
 * Lets each channel, as it becomes free, take the leg that suits the hour best: one that ends
 * while somebody is there loses no night. Jobs with pinned legs and what finds no hour are left
 * to the caller: only those listed are placed.
 * @returns null where some job cannot be placed so.
 */
export function dispatchPlan(
  problem: PlanningProblem,
  indices: readonly number[],
  { choices, weights }: { choices: Choices; weights: DispatchWeights },
): Plan | null {
  const { jobs, channels, attended } = problem;
  const lines = channels.map(({ taken }) => new Timeline(taken));
  for (const { channel, fromS, toS } of problem.pinned) lines[channel]?.take(fromS, toS);
  const going: Going[] = indices.map((index) => {
    const job = jobs[index]!;
    return { index, leg: 0, readyS: job.releaseS + job.legs[0]!.restBeforeS };
  });
  const longest = jobs.reduce(
    (most, job) =>
      job.legs.reduce((m, leg) => Math.max(m, ...leg.durationS.filter(Number.isFinite)), most),
    1,
  );
  const free = channels.map(() => nextAttended(attended, 0));
  const placements: Placement[] = [];
  const ends = new Map<number, number>();
  while (going.length > 0) {
    let channel = -1;
    for (let c = 0; c < free.length; c++)
      if (free[c]! < Infinity && (channel < 0 || free[c]! < free[channel]!)) channel = c;
    if (channel < 0) return null;
    const atS = free[channel]!;
    let best = -1;
    let bestScore = Infinity;
    let soonest = Infinity;
    for (let i = 0; i < going.length; i++) {
      const { index, leg: legIndex, readyS } = going[i]!;
      const job = jobs[index]!;
      const leg = job.legs[legIndex]!;
      const durationS = leg.durationS[channel]!;
      if (durationS === Infinity) continue;
      if (readyS > atS) {
        if (readyS < soonest) soonest = readyS;
        continue;
      }
      const score = scoreOf(problem, { choices, weights, longest }, going[i]!, { atS, durationS });
      if (score >= bestScore) continue;
      if (lines[channel]!.earliest(leg, durationS, atS, { attended, givenUpS: atS + 1 }) !== atS)
        continue;
      best = i;
      bestScore = score;
    }
    if (best < 0) {
      // Nothing suits this hour here: on to the next at which something may.
      free[channel] = laterFrom(attended, atS, soonest);
      continue;
    }
    const one = going[best]!;
    const job = jobs[one.index]!;
    const endS = atS + job.legs[one.leg]!.durationS[channel]!;
    lines[channel]!.take(atS, endS);
    placements.push({ job: job.id, leg: one.leg, channel, fromS: atS, toS: endS });
    free[channel] = nextAttended(attended, endS);
    ends.set(one.index, endS);
    if (one.leg + 1 < job.legs.length) {
      const readyS = endS + job.legs[one.leg + 1]!.restBeforeS;
      going[best] = { index: one.index, leg: one.leg + 1, readyS };
      // A channel that waits for later looks again when this leg is ready.
      const againS = nextAttended(attended, readyS);
      for (let c = 0; c < free.length; c++) if (free[c]! === Infinity) free[c] = againS;
    } else going.splice(best, 1);
  }
  return summed(problem, placements, ends);
}

/** The next time after one at which a channel should look again: a release, or the next window. */
function laterFrom(attended: readonly Span[], atS: number, soonestS: number): number {
  const window = attended.find(({ toS }) => toS > atS);
  const following = attended.find(({ fromS }) => fromS > atS);
  const release = soonestS < Infinity ? nextAttended(attended, soonestS) : Infinity;
  const half = window && atS >= window.fromS && atS + 1800 <= window.toS ? atS + 1800 : Infinity;
  return Math.min(release, following?.fromS ?? Infinity, half);
}

function summed(
  problem: PlanningProblem,
  placements: Placement[],
  ends: ReadonlyMap<number, number>,
): Plan {
  const plan: Plan = { placements, impossible: [], finishS: 0, latenessS: 0, lateJobs: 0 };
  for (const [index, endS] of ends) {
    const { dueS, priority } = problem.jobs[index]!;
    plan.finishS = Math.max(plan.finishS, endS);
    if (dueS !== null && endS > dueS) {
      plan.latenessS += (endS - dueS) * priority;
      plan.lateJobs++;
    }
  }
  return plan;
}
