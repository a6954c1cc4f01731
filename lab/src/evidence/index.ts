export * from './compute-pool';
export * from './instruments';
export * from './import-log';
export * from './channels';
export * from './meters-page';
export * from './readings';
export * from './recompute';
