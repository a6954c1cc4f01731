export * from './import-string';
export * from './tie-string';
export * from './pages';
export { stringStretch, stringView } from './stretches';
export * from './compare';
