export * from './record';
export * from './expected';
