export * from './fold';
export { watchBench } from './watch';
