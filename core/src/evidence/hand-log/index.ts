export * from './points';
export * from './doubts';
export * from './forecast';
export * from './result';
