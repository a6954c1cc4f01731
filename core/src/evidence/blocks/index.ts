export * from './column-codec';
export * from './trace-blocks';
export * from './curve';
