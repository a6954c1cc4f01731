export * from './snapshot';
export * from './reports';
