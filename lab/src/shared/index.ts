export * from './errors';
export * from './lab';
export * from './audit';
export * from './grouped';
export * from './changes';
export * from './due';
export * from './procedure';
export * from './history';
