export * from './refusal';
export * from './dialect';
export * from './roles';
export * from './scan';
export * from './join-scans';
export * from './read-log';
export { currentDeadBandA } from './sign-current';
export * from './mapping';
export {
  readingWords,
  TIME_UNIT_WORDS,
  TIME_UNITS,
  type TimeReading,
  type TimeUnit,
} from './time-column';
