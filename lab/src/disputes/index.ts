export * from './dispute-acts';
export * from './dispute-page';
export * from './files';
export * from './letters';
export type { DisputedItem, DisputeSnapshot } from '../compute';
export { arrivalLines } from './make-file';
export * from './stages';
