import {
  ALARM_ACTIONS,
  ALARM_CODES,
  type BatchAnswer,
  EVENT_KINDS,
  type EventKind,
  MEASURED,
  type RecordBatch,
  type RunRecord,
} from '@dusk-tally/core/bench';
import { trapezoid } from '@dusk-tally/core/units';
import type { BenchLiveRow, BenchRecordRow, BenchRunRow, Transaction } from '@dusk-tally/store';
import { z } from 'zod';
import { type Lab, procedure, systemActor } from '../shared';
import { closeRun } from './close-run';
import { SetAside } from './set-aside';

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

const event = z.discriminatedUnion('event', [
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
const anyBatch = z.object({ ...envelope, records: z.array(z.unknown()).max(MOST_RECORDS) });

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
function sortOut(records: readonly unknown[]): {
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

/**
 * Takes in records of runs, each exactly once: what is there already is passed over, what leaves a
 * gap is not taken, what cannot be taken is set aside with its reason and keeps none of the others
 * back. Locks each run in order of its number, so that batches come one after the other.
 */
export const takeRecords = procedure({
  role: 'technician',
  input: anyBatch,
  run: async ({ lab, input, transaction }): Promise<BatchAnswer> => {
    const { byRun, stray } = sortOut(input.records);
    const aside = new SetAside(lab, input.agent);
    for (const { reason: why, body } of stray)
      aside.add({ run: null, seq: null, reason: why, body });
    const ids = [...byRun.keys()].sort((a, b) => a - b);
    const { bench } = lab.store;
    const runs = await bench.runs.find(
      { id: ids, agent: input.agent },
      {
        transaction,
        forUpdate: true,
        order: [['id', 'ASC']],
        columns: ['id', 'cellId', 'lotId', 'state', 'personId'],
      },
    );
    const known = new Map(
      (await bench.live.find({ benchRunId: ids }, { transaction })).map((row) => [
        row.benchRunId,
        row,
      ]),
    );
    const rows: BenchRecordRow[] = [];
    const lives: BenchLiveRow[] = [];
    const acked: BatchAnswer['acked'] = [];
    for (const run of runs) {
      const before = known.get(run.id) ?? newLive(run.id, lab.now());
      const taken = follow(before, byRun.get(run.id)!, lab.now());
      rows.push(...taken.rows);
      if (taken.live.lastSeq > before.lastSeq) lives.push(taken.live);
      acked.push({ run: run.id, seq: taken.live.lastSeq });
      for (const refused of taken.refused) aside.add(refused);
      await consequences(lab, run, taken.rows, aside, transaction);
    }
    await bench.records.insertMany(rows, transaction);
    await bench.live.replaceMany(lives, transaction);
    return { acked, refused: await aside.keep(transaction) };
  },
});

const newLive = (benchRunId: number, receivedAt: Date): BenchLiveRow => ({
  benchRunId,
  lastSeq: 0,
  phase: 'waiting',
  step: 0,
  stepSinceS: 0,
  stepAh: 0,
  givenAh: 0,
  takenAh: 0,
  timeS: 0,
  voltageV: null,
  currentA: null,
  temperatureC: null,
  receivedAt,
});

/** Where a run stands after its new records, as far as they follow without a gap. */
export function follow(
  before: BenchLiveRow,
  records: readonly (RunRecord | RefusedRecord)[],
  receivedAt: Date,
): { live: BenchLiveRow; rows: BenchRecordRow[]; refused: RefusedRecord[] } {
  const live = { ...before, receivedAt };
  const rows: BenchRecordRow[] = [];
  const refused: RefusedRecord[] = [];
  for (const record of [...records].sort((a, b) => a.seq - b.seq)) {
    if (record.seq <= live.lastSeq) continue;
    if (record.seq > live.lastSeq + 1) break;
    live.lastSeq = record.seq;
    if (record.kind === 'refused') {
      refused.push(record);
      continue;
    }
    const { run, seq, timeS, step } = record;
    if (record.kind === 'event') {
      rows.push({
        benchRunId: run,
        seq,
        timeS,
        step,
        voltageV: null,
        currentA: null,
        temperatureC: null,
        counterAh: null,
        event: record.event,
      });
      const { event } = record;
      if (event.event === 'step')
        Object.assign(live, { phase: 'running', step: event.step, stepSinceS: timeS, stepAh: 0 });
      else if (event.event === 'paused') live.phase = 'paused';
      else if (event.event === 'resumed') live.phase = 'running';
      else if (event.event === 'ended') live.phase = 'ended';
      continue;
    }
    const { voltageV, currentA, temperatureC, counterAh } = record;
    rows.push({
      benchRunId: run,
      seq,
      timeS,
      step,
      voltageV,
      currentA,
      temperatureC,
      counterAh,
      event: null,
    });
    if (live.currentA !== null && timeS > live.timeS) {
      const ah = trapezoid(live.currentA, currentA, (timeS - live.timeS) / 3600);
      live.stepAh += Math.abs(ah);
      live.givenAh += Math.max(0, -ah);
      live.takenAh += Math.max(0, ah);
    }
    Object.assign(live, { timeS, voltageV, currentA, temperatureC });
  }
  return { live, rows, refused };
}

type RunOfBatch = Pick<BenchRunRow, 'id' | 'cellId' | 'lotId' | 'state' | 'personId'>;

/** A heater is blocked for good, and what was planned with it is off. */
async function blockHeater(
  lab: Lab,
  run: RunOfBatch,
  text: string,
  transaction: Transaction,
): Promise<void> {
  const { bench, arrivals } = lab.store;
  const { id: personId } = await systemActor(lab, undefined, transaction);
  await arrivals.markCells(
    {
      lotId: run.lotId,
      act: 'finding',
      code: 'heater',
      note: `bench run ${run.id}: ${text}`.slice(0, 400),
      personId,
      at: lab.now(),
    },
    [run.cellId],
    transaction,
  );
  await lab.derive([{ what: 'inspection', lotId: run.lotId, cellIds: [run.cellId] }], transaction);
  const open = await bench.jobs.find(
    { cellId: run.cellId, state: ['waiting', 'planned'] },
    { transaction },
  );
  for (const job of open)
    await bench.jobs.update(
      {
        state: 'cancelled',
        parts: [],
        pinned: false,
        endedReason: 'The cell heats on charge and is blocked.',
        version: job.version + 1,
      },
      { id: job.id },
      transaction,
    );
}

/** What one event leads to: an alarm, a cell blocked for good, the run’s end. */
async function consequence(
  lab: Lab,
  run: RunOfBatch,
  { seq, event: what }: BenchRecordRow,
  transaction: Transaction,
): Promise<void> {
  const at = lab.now();
  if (what?.event === 'alarm') {
    const { code, action, text } = what;
    await lab.store.bench.alarms.insert(
      {
        benchRunId: run.id,
        seq,
        cellId: run.cellId,
        code,
        action,
        text: text.slice(0, 400),
        at,
        acknowledgedAt: null,
        acknowledgedBy: null,
      },
      transaction,
    );
    if (action === 'block') await blockHeater(lab, run, text, transaction);
  }
  if (what?.event === 'ended') {
    const { reason: why, completed } = what;
    await closeRun(lab, run.id, { reason: why, completed, at }, transaction);
  }
}

/** What new events lead to; where one of them cannot be followed it is set aside, and the rest goes on. */
async function consequences(
  lab: Lab,
  run: RunOfBatch,
  rows: readonly BenchRecordRow[],
  aside: SetAside,
  transaction: Transaction,
): Promise<void> {
  if (rows.length > 0 && run.state === 'ready')
    await lab.store.bench.runs.update(
      { state: 'running', startedAt: lab.now() },
      { id: run.id },
      transaction,
    );
  for (const row of rows) {
    if (row.event?.event !== 'alarm' && row.event?.event !== 'ended') continue;
    const done = await lab.store.attempt(transaction, (inner) => consequence(lab, run, row, inner));
    if (!done.ok)
      aside.add({
        run: run.id,
        seq: row.seq,
        reason: `It is kept, and what follows from it failed: ${done.error.message}`,
        body: row.event,
      });
  }
}
