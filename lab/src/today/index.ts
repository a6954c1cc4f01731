export * from './waiting';
export * from './search';
