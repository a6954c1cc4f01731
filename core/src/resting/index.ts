export * from './against-the-lot';
export * from './conditioning';
export * from './protocol';
export * from './self-discharge';
