export { type WatchedString } from './watched-string';
export { shareAbove, SPREAD_STEP_MV } from './spread-times';
export { evenness, type Leaders, type StandingOut } from './leaders';
export * from './watch';
export * from './thin';
export * from './read-string';
export * from './compare';
