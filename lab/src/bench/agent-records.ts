import type { BatchAnswer, RecordBatch, RunRecord } from '@dusk-tally/core/bench';
import { trapezoid } from '@dusk-tally/core/units';
import type {
  BenchAlarmRow,
  BenchLiveRow,
  BenchRecordRow,
  BenchRunRow,
  Transaction,
} from '@dusk-tally/store';
import { z } from 'zod';
import { type Lab, procedure } from '../shared';
import { closeRun } from './close-run';

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
const measured = z.enum(['acResistance', 'openCircuitVoltage', 'mass', 'temperature', 'torque']);

const event = z.discriminatedUnion('event', [
  z.object({ event: z.literal('started') }),
  z.object({ event: z.literal('step'), step: z.int() }),
  z.object({ event: z.literal('stepEnded'), step: z.int(), reason, ah: number }),
  z.object({ event: z.literal('ask'), step: z.int(), what: measured }),
  z.object({ event: z.literal('measured'), step: z.int(), what: measured, value: number }),
  z.object({
    event: z.literal('alarm'),
    code: z.enum([
      'heatOnCharge',
      'hotOnDischarge',
      'voltageHigh',
      'voltageLow',
      'cutoffPassed',
      'noReadings',
      'clockJump',
      'currentOff',
      'stepTooLong',
      'rechargeOverdue',
      'instrumentError',
      'appSilent',
      'journalFull',
    ]),
    action: z.enum(['tell', 'pause', 'stop', 'block']),
    text: reason,
  }),
  z.object({ event: z.literal('paused'), reason }),
  z.object({ event: z.literal('resumed') }),
  z.object({
    event: z.literal('ended'),
    reason,
    completed: z.boolean(),
    clocksApart: number.nullish(),
  }),
]);

export const recordBatch = z.object({
  agent: z.string().max(40),
  instance: z.string().max(40),
  batch: z.int().min(1),
  records: z
    .array(
      z.discriminatedUnion('kind', [
        z.object({
          kind: z.literal('reading'),
          ...place,
          voltageV: number,
          currentA: number,
          temperatureC: number.nullable(),
          counterAh: number.nullable(),
        }),
        z.object({ kind: z.literal('event'), ...place, event }),
      ]),
    )
    .max(MOST_RECORDS),
}) satisfies z.ZodType<RecordBatch>;

/**
 * Takes in records of runs, each exactly once: what is there already is passed over, what leaves a
 * gap is not taken. Locks each run in order of its number, so that batches come one after the other.
 */
export const takeRecords = procedure({
  role: 'technician',
  input: recordBatch,
  run: async ({ lab, input, transaction }): Promise<BatchAnswer> => {
    const byRun = new Map<number, RunRecord[]>();
    for (const record of input.records) {
      const list = byRun.get(record.run);
      if (list) list.push(record);
      else byRun.set(record.run, [record]);
    }
    const ids = [...byRun.keys()].sort((a, b) => a - b);
    if (ids.length === 0) return { acked: [] };
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
      const taken = follow(
        known.get(run.id) ?? newLive(run.id, lab.now()),
        byRun.get(run.id)!,
        lab.now(),
      );
      rows.push(...taken.rows);
      if (taken.rows.length > 0) lives.push(taken.live);
      acked.push({ run: run.id, seq: taken.live.lastSeq });
      await consequences(lab, run, taken.rows, transaction);
    }
    await bench.records.insertMany(rows, transaction);
    await bench.live.replaceMany(lives, transaction);
    return { acked };
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
  records: readonly RunRecord[],
  receivedAt: Date,
): { live: BenchLiveRow; rows: BenchRecordRow[] } {
  const live = { ...before, receivedAt };
  const rows: BenchRecordRow[] = [];
  for (const record of [...records].sort((a, b) => a.seq - b.seq)) {
    if (record.seq <= live.lastSeq) continue;
    if (record.seq > live.lastSeq + 1) break;
    live.lastSeq = record.seq;
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
  return { live, rows };
}

type RunOfBatch = Pick<BenchRunRow, 'id' | 'cellId' | 'lotId' | 'state' | 'personId'>;

/** What new events lead to: alarms, a cell blocked for good, the run’s beginning and end. */
async function consequences(
  lab: Lab,
  run: RunOfBatch,
  rows: readonly BenchRecordRow[],
  transaction: Transaction,
): Promise<void> {
  const { bench, arrivals } = lab.store;
  const at = lab.now();
  const alarms: Omit<BenchAlarmRow, 'id'>[] = [];
  if (rows.length > 0 && run.state === 'ready')
    await bench.runs.update({ state: 'running', startedAt: at }, { id: run.id }, transaction);
  for (const { seq, event } of rows) {
    if (event?.event === 'alarm') {
      alarms.push({
        benchRunId: run.id,
        seq,
        cellId: run.cellId,
        code: event.code,
        action: event.action,
        text: event.text.slice(0, 400),
        at,
        acknowledgedAt: null,
        acknowledgedBy: null,
      });
      if (event.action === 'block') {
        await arrivals.markCells(
          {
            lotId: run.lotId,
            act: 'finding',
            code: 'heater',
            note: `bench run ${run.id}: ${event.text}`.slice(0, 400),
            personId: run.personId,
            at,
          },
          [run.cellId],
          transaction,
        );
        await lab.derive(
          [{ what: 'inspection', lotId: run.lotId, cellIds: [run.cellId] }],
          transaction,
        );
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
    }
    if (event?.event === 'ended')
      await closeRun(
        lab,
        run.id,
        { reason: event.reason, completed: event.completed, at },
        transaction,
      );
  }
  await bench.alarms.insertMany(alarms, transaction);
}
