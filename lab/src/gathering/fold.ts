import { usualPurpose } from '@dusk-tally/core/arrivals';
import { createHash } from 'node:crypto';
import type { BenchRecordRow, BenchRunRow } from '@dusk-tally/store';
import { importLog, recordReadings } from '../evidence';
import { type Actor, type Lab, LabError, systemActor } from '../shared';

/** Readings of one stretch of a run with what came of it. */
interface Stretch {
  records: BenchRecordRow[];
  holdsDischarge: boolean;
}

/** Fewer readings than this say nothing. */
const LEAST_READINGS = 4;

/** A run cut behind the rest that follows each discharge: each is evidence of its own. */
export function stretchesOf(
  run: Pick<BenchRunRow, 'program'>,
  readings: readonly BenchRecordRow[],
): Stretch[] {
  const { program } = run;
  const cuts = new Set<number>();
  program.forEach((step, i) => {
    if (step.kind !== 'discharge') return;
    const end = program[i + 1]?.kind === 'rest' ? i + 1 : i;
    if (program.slice(end + 1).some(({ kind }) => kind === 'discharge')) cuts.add(end);
  });
  const stretches: Stretch[] = [];
  let current: Stretch = { records: [], holdsDischarge: false };
  let before: BenchRecordRow | null = null;
  for (const record of readings) {
    if (
      before &&
      before.step !== record.step &&
      [...cuts].some((cut) => before!.step <= cut && record.step > cut)
    ) {
      stretches.push(current);
      current = { records: [], holdsDischarge: false };
    }
    current.records.push(record);
    if (program[record.step]?.kind === 'discharge') current.holdsDischarge = true;
    before = record;
  }
  stretches.push(current);
  return stretches.filter(({ records }) => records.length >= LEAST_READINGS);
}

/** A stretch as a log any reader of logs takes; the load’s own counter stands where it was not asked. */
export function logOf({ records }: Pick<Stretch, 'records'>): Uint8Array<ArrayBuffer> {
  const withTemperature = records.some(({ temperatureC }) => temperatureC !== null);
  const firstCounted = records.find(({ counterAh }) => counterAh !== null);
  let counted = firstCounted?.counterAh ?? 0;
  const lines = records.map(({ timeS, voltageV, currentA, temperatureC, counterAh, step }) => {
    counted = counterAh ?? counted;
    return [
      timeS.toFixed(2),
      voltageV!.toFixed(5),
      currentA!.toFixed(5),
      ...(firstCounted ? [counted.toFixed(6)] : []),
      ...(withTemperature ? [temperatureC === null ? '' : temperatureC.toFixed(2)] : []),
      step + 1,
    ].join(',');
  });
  const head = `time_s,voltage_V,current_A,${firstCounted ? 'capacity_Ah,' : ''}${withTemperature ? 'temperature_C,' : ''}step`;
  return new TextEncoder().encode(`${head}\n${lines.join('\n')}\n`);
}

/** Takes a run that ended in as evidence: its log, its figures, what was measured. Doing it again changes nothing. */
export async function foldRun(lab: Lab, benchRunId: number): Promise<number | null> {
  const { bench, cells, logFiles, runs } = lab.store;
  const run = await bench.runs.one({ id: benchRunId });
  if (!run || run.state !== 'ended') return run?.runId ?? null;
  // The run was allowed when it began; its evidence is taken in whatever became of the cell since.
  const actor = await systemActor(lab, run.personId);
  const cell = (await cells.one({ id: run.cellId }))!;
  const records = await bench.records.find({ benchRunId }, { order: [['seq', 'ASC']] });
  const readings = records.filter(({ event }) => event === null);
  let first: number | null = null;
  const clocksApart =
    records.flatMap(({ event }) =>
      event?.event === 'ended' ? [event.clocksApart ?? null] : [],
    )[0] ?? null;
  for (const [i, stretch] of stretchesOf(run, readings).entries()) {
    const bytes = logOf(stretch);
    const sha256 = createHash('sha256').update(bytes).digest('hex');
    try {
      const { runId } = await importLog(lab, actor, {
        lotId: run.lotId,
        cellId: run.cellId,
        channelId: run.channelId,
        ambientC: run.ambientC,
        clamping: run.clamping,
        clocksApart,
        despiteGate: 'Run on our own bench.',
        fileName: `bench-run-${run.id}${i > 0 ? `-${i + 1}` : ''}-${cell.number}.csv`,
        bytes,
      });
      first ??= runId;
    } catch (error) {
      if (!(error instanceof LabError)) throw error;
      const file = error.code === 'duplicate' ? await logFiles.one({ sha256 }) : null;
      const known = file ? await runs.one({ logFileId: file.id }, { columns: ['id'] }) : null;
      // A stretch without sense, such as a run stopped at once, is no evidence; its records stay.
      first ??= known?.id ?? null;
    }
  }
  await keepMeasured(lab, actor, run, records);
  await bench.runs.update({ state: 'stored', runId: first }, { id: run.id, state: 'ended' });
  return first;
}

/** The same record gives the same key: taken in again, it is not stored twice. */
function keyOf(benchRunId: number, seq: number): string {
  const hex = createHash('sha256').update(`bench run ${benchRunId}, record ${seq}`).digest('hex');
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-4${hex.slice(13, 16)}-8${hex.slice(17, 20)}-${hex.slice(20, 32)}`;
}

/** Readings a measuring step took become readings of the cell. */
async function keepMeasured(
  lab: Lab,
  actor: Actor,
  run: BenchRunRow,
  records: readonly BenchRecordRow[],
): Promise<void> {
  // A voltage read before any current flowed is one of arrival where the cell is new here.
  let flowed = false;
  const hasRun =
    (await lab.store.runs.count({
      cellId: run.cellId,
      createdAt: { below: run.startedAt ?? run.createdAt },
    })) > 0;
  for (const { seq, step, event } of records) {
    const kind = run.program[step]?.kind;
    flowed ||= kind !== undefined && kind !== 'rest' && kind !== 'measure';
    if (event?.event !== 'measured') continue;
    if (
      event.what !== 'acResistance' &&
      event.what !== 'openCircuitVoltage' &&
      event.what !== 'mass'
    )
      continue;
    await recordReadings(lab, actor, {
      lotId: run.lotId,
      readings: [
        {
          cellId: run.cellId,
          kind: event.what,
          value: Number(event.value.toFixed(4)),
          decimals: 4,
          purpose: flowed ? 'rest' : usualPurpose(hasRun),
          clientKey: keyOf(run.id, seq),
        },
      ],
    }).catch((error: unknown) => {
      if (!(error instanceof LabError)) throw error;
    });
  }
}

/** Takes in all runs that ended and were not taken in yet. */
export async function foldEnded(lab: Lab): Promise<number> {
  const ended = await lab.store.bench.runs.find(
    { state: 'ended' },
    { columns: ['id'], order: [['id', 'ASC']], limit: 20 },
  );
  for (const { id } of ended) await foldRun(lab, id);
  return ended.length;
}
