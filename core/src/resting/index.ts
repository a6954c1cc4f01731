export * from './against-the-lot';
export * from './conditioning';
export * from './protocol';
export * from './rest-doubt';
export * from './self-discharge';
export * from './charge-slope';
