import type { Placement, PlanningProblem } from './problem';

/** Rounding of starts and ends, s. */
const SLACK_S = 0.5;

/** A rule a placement breaks. */
export interface PlanFault {
  job: number;
  leg: number;
  reason: string;
}

/**
 * Every rule broken by placements (handbook, chapter 2, "Planning the bench"): a channel that cannot
 * run it, two cells on one channel, outside attended hours, before its release or its rest, wrong length.
 */
export function planFaults(
  problem: PlanningProblem,
  placements: readonly Placement[],
): PlanFault[] {
  const faults: PlanFault[] = [];
  const jobs = new Map(problem.jobs.map((job) => [job.id, job]));
  const add = ({ job, leg }: Placement, reason: string) => faults.push({ job, leg, reason });
  const windowAt = (atS: number) =>
    problem.attended.find(({ fromS, toS }) => atS >= fromS - SLACK_S && atS <= toS + SLACK_S);
  const byJob = new Map<number, Placement[]>();
  for (const one of placements) {
    const job = jobs.get(one.job);
    const leg = job?.legs[one.leg];
    if (!job || !leg) {
      add(one, 'There is no such job.');
      continue;
    }
    byJob.set(one.job, [...(byJob.get(one.job) ?? []), one]);
    const durationS = leg.durationS[one.channel] ?? Infinity;
    if (!Number.isFinite(durationS)) add(one, 'The channel cannot run it: see its limits.');
    else if (Math.abs(one.toS - one.fromS - durationS) > SLACK_S)
      add(one, 'It takes another time on this channel.');
    const window = windowAt(one.fromS);
    const watchedS = Number.isFinite(durationS) ? leg.attendedShare * durationS : 0;
    if (!window) add(one, 'Nobody is there to connect it at that hour.');
    else if (one.fromS + watchedS > window.toS + SLACK_S)
      add(
        one,
        leg.attendedShare === 1
          ? 'It must run in attended hours from start to finish.'
          : 'Its first charge must end while somebody is there.',
      );
  }
  problem.channels.forEach(({ taken }, channel) => {
    const here = placements
      .filter((one) => one.channel === channel)
      .sort((a, b) => a.fromS - b.fromS);
    here.forEach((one, i) => {
      const after = here[i + 1];
      if (after && after.fromS < one.toS - SLACK_S)
        add(after, 'Another cell is on the channel then.');
      if (taken.some(({ fromS, toS }) => fromS < one.toS - SLACK_S && toS > one.fromS + SLACK_S))
        add(one, 'The channel is taken then.');
    });
  });
  for (const [id, list] of byJob) {
    const job = jobs.get(id)!;
    list.sort((a, b) => a.leg - b.leg);
    let readyS = job.releaseS;
    for (const one of list) {
      readyS += job.legs[one.leg]!.restBeforeS;
      if (one.fromS < readyS - SLACK_S)
        add(
          one,
          one.leg === 0
            ? 'It cannot start that early.'
            : 'The part before it, or its rest, is not over then.',
        );
      readyS = one.toS;
    }
  }
  return faults;
}
