export * from './claim';
export * from './cell-number';
export * from './check-typed';
