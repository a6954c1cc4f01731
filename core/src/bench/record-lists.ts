import { ALARMS, type AlarmCode } from './alarms';
import type { RunEvent } from './run-state';

/** What may happen in a run. */
export const EVENT_KINDS = [
  'started',
  'step',
  'stepEnded',
  'ask',
  'measured',
  'alarm',
  'paused',
  'resumed',
  'ended',
] as const satisfies readonly RunEvent['event'][];
/** Kind of event in an agent's journal. */
export type EventKind = RunEvent['event'];
/** Codes of all alarms; a record with another code is refused. */
export const ALARM_CODES = Object.keys(ALARMS) as AlarmCode[];
