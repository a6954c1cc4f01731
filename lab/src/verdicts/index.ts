export * from './standings';
export * from './lot-views';
export * from './today';
export * from './cell-view';
export * from './search';
export * from './lot-curves';
