export * from './waiting';
export * from './due';
export * from './search';
export * from './so-far';
