export * from './errors';
export * from './lab';
export * from './audit';
export * from './procedure';
