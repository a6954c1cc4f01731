export * from './dispute-acts';
export * from './dispute-page';
export * from './files';
export * from './letters';
export type { DisputedItem, DisputeSnapshot } from '../compute';
export { arrivalLines } from './arrival-lines';
export type { Overtaken } from './basis';
export * from './stages';
