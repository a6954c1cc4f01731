import type { Placement, Plan, PlannedJob, PlanningProblem } from './problem';
import { Timeline } from './timeline';

/** Channels that can take each leg of each job, least time first. */
export type Choices = readonly (readonly (readonly number[])[])[];

/** For each leg of each job the channels it may run on, by their position; computed once for many plans. */
export const choicesOf = ({ jobs, channels }: PlanningProblem): Choices =>
  jobs.map((job) =>
    job.legs.map((leg) =>
      channels
        .map((_, channel) => channel)
        .filter((channel) => Number.isFinite(leg.durationS[channel]))
        .sort((a, b) => leg.durationS[a]! - leg.durationS[b]! || a - b),
    ),
  );

const keyOf = (job: number, leg: number) => `${job}:${leg}`;

function impossibleReason(
  { channels }: PlanningProblem,
  job: PlannedJob,
  choices: readonly (readonly number[])[],
): string {
  if (channels.length === 0) return 'There is no channel.';
  const blocked = choices.findIndex((list) => list.length === 0);
  if (blocked >= 0) return `No channel can run part ${blocked + 1} of it: see its limits.`;
  const { legs } = job;
  return legs.some((leg) => leg.attendedShare > 0)
    ? 'No attended hours are long enough to run it from start to finish.'
    : 'No hours are left in which it could start.';
}

/**
 * Places jobs one after the other, each leg where it is done first, around what is pinned.
 * @param order indices of jobs.
 */
export function buildPlan(
  problem: PlanningProblem,
  order: readonly number[],
  choices: Choices,
): Plan {
  const { jobs, channels, attended } = problem;
  const lines = channels.map(({ taken }) => new Timeline(taken));
  const pinned = new Map(problem.pinned.map((one) => [keyOf(one.job, one.leg), one]));
  for (const { channel, fromS, toS } of problem.pinned) lines[channel]?.take(fromS, toS);
  const plan: Plan = { placements: [], impossible: [], finishS: 0, latenessS: 0, lateJobs: 0 };
  for (const index of order) {
    const job = jobs[index]!;
    let readyS = job.releaseS;
    const placed: Placement[] = [];
    for (const [legIndex, leg] of job.legs.entries()) {
      readyS += leg.restBeforeS;
      const fixed = pinned.get(keyOf(job.id, legIndex));
      let best: Placement | null = fixed ?? null;
      if (!fixed) {
        for (const channel of choices[index]![legIndex]!) {
          const durationS = leg.durationS[channel]!;
          // The others take at least as long: none can end before this one any more.
          if (best && readyS + durationS >= best.toS) break;
          const startS = lines[channel]!.earliest(leg, durationS, readyS, {
            attended,
            givenUpS: best ? best.toS - durationS : Infinity,
          });
          if (startS === Infinity) continue;
          if (!best || startS + durationS < best.toS)
            best = { job: job.id, leg: legIndex, channel, fromS: startS, toS: startS + durationS };
        }
      }
      if (!best) break;
      placed.push(best);
      if (!fixed) lines[best.channel]!.take(best.fromS, best.toS);
      readyS = best.toS;
    }
    if (placed.length < job.legs.length) {
      // What was placed of it stays taken in this plan; it is rare and costs only room.
      plan.impossible.push({
        job: job.id,
        reason: impossibleReason(problem, job, choices[index]!),
      });
      continue;
    }
    plan.placements.push(...placed);
    plan.finishS = Math.max(plan.finishS, readyS);
    if (job.dueS !== null && readyS > job.dueS) {
      plan.latenessS += (readyS - job.dueS) * job.priority;
      plan.lateJobs++;
    }
  }
  return plan;
}
