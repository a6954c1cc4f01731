export * from './compute-pool';
export type * from './compute-log';
export * from './log-task';
export type * from './plan-task';
export * from './report-snapshot';
export * from './string-task';
export type * from './trace-view';
export type * from './window-task';
export * from './report-words';
