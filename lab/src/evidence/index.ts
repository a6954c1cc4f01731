export * from './compute-pool';
export * from './instruments';
export * from './import-log';
export * from './readings';
export * from './recompute';
