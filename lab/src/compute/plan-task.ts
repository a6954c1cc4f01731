import {
  oneMoreChannel,
  planBench,
  type OneMore,
  type PlannedBench,
  type PlanningProblem,
} from '@dusk-tally/core/bench';

export interface PlanTask {
  problem: PlanningProblem;
  seed: number;
  /** Set to anything but 0 from outside to stop early. */
  stop: SharedArrayBuffer | null;
}

export type PlanAnswer = PlannedBench & { oneMore: OneMore | null };

/** Plans the bench. Runs in a worker; stopped from outside, it gives what it has. */
export function planTask({ problem, seed, stop }: PlanTask): PlanAnswer {
  const flag = stop ? new Int32Array(stop) : null;
  const shouldStop = () => flag !== null && Atomics.load(flag, 0) !== 0;
  const planned = planBench(problem, { seed, shouldStop });
  return {
    ...planned,
    oneMore:
      shouldStop() || problem.jobs.length === 0 ? null : oneMoreChannel(problem, planned, seed),
  };
}
