export * from './derivation';
export * from './engine';
export * from './origin';
export * from './touched';
