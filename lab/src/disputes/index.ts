export * from './dispute-acts';
export * from './dispute-page';
export * from './files';
export * from './letters';
export { arrivalLines } from './make-file';
export * from './stages';
