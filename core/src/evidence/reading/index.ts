export * from './refusal';
export * from './dialect';
export * from './without-data';
export * from './find-table';
export * from './sampled-lines';
export * from './roles';
export * from './scan';
export * from './scanned-rows';
export * from './added-blanks';
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
export { type ChannelRows, channelsInLog } from './channels-in-log';
