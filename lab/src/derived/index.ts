export * from './engine';
export * from './touched';
