export * from './rows';
export * from './string-rows';
export * from './tables';
