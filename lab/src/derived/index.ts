export * from './derivation';
export * from './engine';
export * from './touched';
