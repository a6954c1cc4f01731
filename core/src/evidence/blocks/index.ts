export * from './column-codec';
export * from './trace-blocks';
export * from './curve';
export * from './pyramid';
export * from './trace-view';
