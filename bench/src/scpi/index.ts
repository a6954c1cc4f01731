export * from './parse-message';
export * from './instrument';
export * from './scpi-client';
