export * from './judge';
export * from './grade';
export * from './lot-summary';
export * from './typed-capacity';
export * from './state-of-health';
export * from './settle';
