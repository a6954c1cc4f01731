/** Where a run is in the lab’s books. */
export const BENCH_RUN_STATES = ['ready', 'running', 'ended', 'stored'] as const;
/** State of a run on the bench. */
export type BenchRunState = (typeof BENCH_RUN_STATES)[number];
/** A run that takes its channel and its cell. */
export const ACTIVE_RUN_STATES = ['ready', 'running'] as const satisfies BenchRunState[];
/** Where a job of the plan is. */
export const JOB_STATES = ['waiting', 'planned', 'running', 'done', 'ended', 'cancelled'] as const;
/** State of a job in the plan. */
export type JobState = (typeof JOB_STATES)[number];
/** What a person may ask of a run. */
export const COMMAND_KINDS = ['pause', 'resume', 'stop', 'answer'] as const;
/** What a person can order of a run under way. */
export type CommandKind = (typeof COMMAND_KINDS)[number];
