export * from './rows';
export * from './tables';
export * from './meters-rows';
export * from './meters-tables';
