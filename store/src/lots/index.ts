export * from './books-rows';
export * from './rows';
export * from './tables';
