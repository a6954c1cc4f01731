export * from './byte-source';
export * from './compress-log';
export * from './long-log';
export { LONG_ROWS } from './reduce-trace';
