export * from './fold';
export { enoughOfRun } from './enough';
export * from './hand-log';
export { watchBench } from './watch';
