export * from './derivation';
export * from './engine';
export * from './figure-rows';
export * from './origin';
export * from './touched';
