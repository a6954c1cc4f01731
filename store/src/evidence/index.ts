export * from './rows';
export * from './tables';
export * from './meters-rows';
export * from './meters-tables';
export * from './string-log-rows';
export * from './string-log-tables';
