import { ALARMS, type RunEvent } from '@dusk-tally/core/bench';
import type { BenchRunView } from '@dusk-tally/lab/bench';
import { ASK_WORDS } from './words';

/** A record of a run as it comes down the line: a reading, or something that happened. */
export interface StreamedRecord {
  seq: number;
  timeS: number;
  step: number;
  voltageV: number | null;
  currentA: number | null;
  temperatureC: number | null;
  event: RunEvent | null;
}

/** What is shown of a run while it goes. */
export interface RunState {
  points: BenchRunView['points'];
  events: BenchRunView['events'];
}

/** Points kept on the screen, most. */
export const MOST_POINTS = 1600;
/** So many of the newest are never thinned out. */
const NEWEST = 200;

/** A run with the records that came in: readings as points, thinned where they are many, and events. */
export function withRecords(
  { points, events }: RunState,
  records: readonly StreamedRecord[],
): RunState {
  const all = [
    ...points,
    ...records.flatMap(({ seq, timeS, step, voltageV, currentA, temperatureC, event }) =>
      event === null && voltageV !== null && currentA !== null
        ? [{ seq, timeS, step, voltageV, currentA, temperatureC }]
        : [],
    ),
  ];
  const happened = records.flatMap(({ seq, timeS, event }) =>
    event ? [{ seq, timeS, event }] : [],
  );
  return {
    points:
      all.length > MOST_POINTS ? all.filter((_, i) => i % 2 === 0 || i > all.length - NEWEST) : all,
    events: happened.length > 0 ? [...events, ...happened] : events,
  };
}

/** Something that happened, in a sentence. */
export function eventWords(event: RunEvent): string {
  switch (event.event) {
    case 'started':
      return 'Started.';
    case 'step':
      return `Step ${event.step + 1} began.`;
    case 'stepEnded':
      return `Step ${event.step + 1} ended by ${event.reason}${event.ah > 0.0005 ? `, ${event.ah.toFixed(3)} Ah moved` : ''}.`;
    case 'ask':
      return `Waits for ${ASK_WORDS[event.what]?.[0] ?? event.what}.`;
    case 'measured':
      return `${ASK_WORDS[event.what]?.[0] ?? event.what}: ${event.value} ${ASK_WORDS[event.what]?.[1] ?? ''}.`;
    case 'alarm':
      return `${ALARMS[event.code].title}. ${event.text}`;
    case 'paused':
      return `Paused. ${event.reason}`;
    case 'resumed':
      return 'Went on.';
    case 'ended':
      return `${event.completed ? 'Done' : 'Ended'}. ${event.reason}`;
  }
}
