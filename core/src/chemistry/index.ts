export * from './profiles';
export * from './plausibility';
