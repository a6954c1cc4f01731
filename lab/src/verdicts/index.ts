export * from './standings';
export * from './lot-views';
export * from './today';
export * from './cell-doubts';
export * from './cell-view';
export * from './rate-set';
export * from './search';
export * from './lot-curves';
