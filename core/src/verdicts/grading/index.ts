export * from './figures';
export * from './scheme';
export * from './grade';
export * from './decided';
export * from './of-lot';
