import {
  ALARM_ACTIONS,
  ALARM_CODES,
  EVENT_KINDS,
  type EventKind,
  MEASURED,
  type RecordBatch,
  type RunRecord,
} from '@dusk-tally/core/bench';
import { z } from 'zod';

/** Records in one batch, most. */
export const MOST_RECORDS = 5000;

const number = z.number().finite();

const place = {
  run: z.int().min(1),
  seq: z.int().min(1),
  timeS: number,
  step: z.int().min(0).max(1000),
};

const reason = z.string().max(1000);

const measured = z.enum(MEASURED);

const alarmOf = z.object({
  event: z.literal('alarm'),
  code: z.enum(ALARM_CODES),
  action: z.enum(ALARM_ACTIONS),
  text: reason,
});

/** What each kind of event carries; core’s own list says which there are. */
const EVENTS = {
  started: z.object({ event: z.literal('started') }),
  step: z.object({ event: z.literal('step'), step: z.int() }),
  stepEnded: z.object({ event: z.literal('stepEnded'), step: z.int(), reason, ah: number }),
  ask: z.object({ event: z.literal('ask'), step: z.int(), what: measured }),
  measured: z.object({
    event: z.literal('measured'),
    step: z.int(),
    what: measured,
    value: number,
  }),
  alarm: alarmOf,
  paused: z.object({ event: z.literal('paused'), reason }),
  resumed: z.object({ event: z.literal('resumed') }),
  ended: z.object({
    event: z.literal('ended'),
    reason,
    completed: z.boolean(),
    clocksApart: number.nullish(),
  }),
} satisfies Record<EventKind, z.ZodObject>;

export const event = z.discriminatedUnion('event', [
  EVENTS.started,
  ...EVENT_KINDS.slice(1).map((kind) => EVENTS[kind]),
]);

const runRecord = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('reading'),
    ...place,
    voltageV: number,
    currentA: number,
    temperatureC: number.nullable(),
    counterAh: number.nullable(),
  }),
  z.object({ kind: z.literal('event'), ...place, event }),
]) satisfies z.ZodType<RunRecord>;

const envelope = {
  agent: z.string().max(40),
  instance: z.string().max(40),
  batch: z.int().min(1),
};

/** A batch as it is meant. */
export const recordBatch = z.object({
  ...envelope,
  records: z.array(runRecord).max(MOST_RECORDS),
}) satisfies z.ZodType<RecordBatch>;

/** A batch as it may come: each of its records is looked at for itself. */
export const anyBatch = z.object({ ...envelope, records: z.array(z.unknown()).max(MOST_RECORDS) });

/** A record that cannot be taken, in its place of the run. */
export interface RefusedRecord {
  kind: 'refused';
  run: number;
  seq: number;
  reason: string;
  body: unknown;
}

const placed = z.object({ run: place.run, seq: place.seq });

/** Records by run, each either as it is meant or refused with its reason; and those of no run. */
export function sortOut(records: readonly unknown[]): {
  byRun: Map<number, (RunRecord | RefusedRecord)[]>;
  stray: { reason: string; body: unknown }[];
} {
  const byRun = new Map<number, (RunRecord | RefusedRecord)[]>();
  const stray: { reason: string; body: unknown }[] = [];
  for (const body of records) {
    const read = runRecord.safeParse(body);
    const at = read.success ? read.data : placed.safeParse(body).data;
    const issue = read.error?.issues[0];
    const why = issue ? `${issue.path.join('.') || 'record'}: ${issue.message}` : '';
    if (!at) {
      stray.push({ reason: why, body });
      continue;
    }
    const list = byRun.get(at.run);
    const record = read.success
      ? read.data
      : { kind: 'refused' as const, run: at.run, seq: at.seq, reason: why, body };
    if (list) list.push(record);
    else byRun.set(at.run, [record]);
  }
  return { byRun, stray };
}
