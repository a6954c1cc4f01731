/**
 * Planning the bench (handbook, chapter 2). All times are seconds from the moment of planning; the
 * caller turns clocks and time zones into windows.
 */

/** A stretch of a job that needs a channel without a break. */
export interface Leg {
  /** By channel, in the problem’s order: how long it takes there, s; Infinity where it cannot run. */
  durationS: readonly number[];
  /** Share of it, from its start, in which somebody must be there: 1 for all of it, 0 for the start alone. */
  attendedShare: number;
  /** Rest off the channel between the leg before and this one, at least, s. */
  restBeforeS: number;
}

/** A job as the planner sees it: legs in order, with rests between them. */
export interface PlannedJob {
  id: number;
  legs: readonly Leg[];
  /** Cannot start before, s. */
  releaseS: number;
  /** Should be done by, s; null for no day. */
  dueS: number | null;
  /** Weight of its lateness, above 0. */
  priority: number;
}

/** A stretch of time, s. */
export interface Span {
  fromS: number;
  toS: number;
}

/** A channel and when it is not free. */
export interface PlannerChannel {
  id: number;
  /** Taken by what cannot be moved: runs under way, days off. Ascending, apart. */
  taken: readonly Span[];
}

/** Where one leg runs. */
export interface Placement extends Span {
  job: number;
  leg: number;
  /** Index of the channel in the problem. */
  channel: number;
}

/** All a plan is made from; times in s from the plan's start. */
export interface PlanningProblem {
  jobs: readonly PlannedJob[];
  channels: readonly PlannerChannel[];
  /** When somebody is there: ascending, apart. A leg starts in one of them: someone connects the cell. */
  attended: readonly Span[];
  /** Legs that people put where they are; they are not moved. */
  pinned: readonly Placement[];
}

/** When each leg runs and where, and which jobs cannot be done at all. */
export interface Plan {
  placements: Placement[];
  /** Ids of jobs no channel and hour can take, with the reason in words. */
  impossible: { job: number; reason: string }[];
  /** When the last leg ends, s. */
  finishS: number;
  /** Lateness by priority, s. */
  latenessS: number;
  lateJobs: number;
}

/** What a plan is judged by, in this order. */
export const isBetter = (a: Plan, b: Plan): boolean => {
  if (a.impossible.length !== b.impossible.length) return a.impossible.length < b.impossible.length;
  if (Math.abs(a.latenessS - b.latenessS) > 1) return a.latenessS < b.latenessS;
  return a.finishS < b.finishS - 1;
};
