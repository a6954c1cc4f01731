export * from './books-rows';
export * from './rows';
export * from './supplier-rows';
export * from './supplier-tables';
export * from './tables';
