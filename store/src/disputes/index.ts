export * from './rows';
export * from './tables';
