export * from './profiles';
export * from './plausibility';
export * from './clamping';
