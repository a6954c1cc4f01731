import type { BatchAnswer, RunRecord } from '@dusk-tally/core/bench';
import { trapezoid } from '@dusk-tally/core/units';
import type { BenchLiveRow, BenchRecordRow } from '@dusk-tally/store';
import { procedure } from '../shared';
import { SetAside } from './set-aside';
import { anyBatch, type RefusedRecord, sortOut } from './record-schema';
import { blockFirst, consequences } from './record-consequences';

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
      const events = [
        ...taken.rows.map(({ event }) => event),
        ...taken.refused.map(({ body }) => (body as { event?: unknown }).event),
      ];
      await blockFirst(lab, run, events, aside, transaction);
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
