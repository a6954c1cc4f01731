export * from './fold';
export { dueFolds, type FoldDue, foldTrouble, leaveUnfolded, tryFoldAgain } from './fold-troubles';
export { enoughOfRun } from './enough';
export * from './hand-log';
export { watchBench } from './watch';
