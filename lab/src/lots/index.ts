export * from './profiles';
export * from './claims';
export * from './gate';
export * from './life';
export * from './lab-day';
export * from './lot-locks';
export * from './cells';
export * from './batches';
