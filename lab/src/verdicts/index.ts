export * from './standings';
export * from './lot-views';
export * from './cell-view';
export * from './search';
