export * from './place-state';
export * from './simulated-place';
export * from './instrument-server';
export * from './instruments';
export * from './simulated-bench';
export * from './control';
