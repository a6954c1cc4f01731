export * from './rows';
export * from './hand-rows';
export * from './hand-tables';
export * from './string-rows';
export * from './tables';
