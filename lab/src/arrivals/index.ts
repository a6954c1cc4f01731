export * from './models';
export * from './claims';
export * from './lots';
