export * from './column-codec';
export * from './decode-column';
export * from './block-format';
export * from './trace-blocks';
export * from './curve';
export * from './pyramid';
export * from './pyramid-chunks';
export * from './trace-view';
