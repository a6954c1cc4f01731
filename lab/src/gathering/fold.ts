import { createHash } from 'node:crypto';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { usualPurpose } from '@dusk-tally/core/arrivals';
import type { BenchRecordRow, BenchRunRow } from '@dusk-tally/store';
import { importLog, LARGEST_IN_MEMORY, recordReadings } from '../evidence';
import { type Actor, type Lab, LabError, systemActor } from '../shared';
import { noteTrouble } from './fold-troubles';

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

/** A stretch as an import takes it: in memory, or in a file where it is long. @returns also what clears it away. */
async function loggedAs(
  bytes: Uint8Array<ArrayBuffer>,
  inMemory: number,
): Promise<{
  given: { bytes: Uint8Array<ArrayBuffer> } | { path: string };
  clear: () => Promise<void>;
}> {
  if (bytes.length <= inMemory) return { given: { bytes }, clear: () => Promise.resolve() };
  const folder = await mkdtemp(join(tmpdir(), 'dusk-bench-run-'));
  const path = join(folder, 'run.csv');
  await writeFile(path, bytes);
  return { given: { path }, clear: () => rm(folder, { recursive: true, force: true }) };
}

/** A stretch, and what is known of it beside its readings. */
interface StretchToFold {
  stretch: Stretch;
  fileName: string;
  clocksApart: number | null;
  /** Longer ones go by a file, bytes. */
  inMemory: number;
}

/** Takes one stretch in. @returns the run it became. @throws LabError where it is refused. */
async function foldStretch(
  lab: Lab,
  actor: Actor,
  run: BenchRunRow,
  { stretch, fileName, clocksApart, inMemory }: StretchToFold,
): Promise<number | null> {
  const { logFiles, runs } = lab.store;
  const bytes = logOf(stretch);
  const sha256 = createHash('sha256').update(bytes).digest('hex');
  const { given, clear } = await loggedAs(bytes, inMemory);
  try {
    const { runId } = await importLog(lab, actor, {
      lotId: run.lotId,
      cellId: run.cellId,
      channelId: run.channelId,
      ambientC: run.ambientC,
      clamping: run.clamping,
      clocksApart,
      despiteGate: 'Run on our own bench.',
      fileName,
      ...given,
    });
    return runId;
  } catch (error) {
    if (!(error instanceof LabError && error.code === 'duplicate')) throw error;
    // Taken in before, by a process that died before it could note so.
    const file = await logFiles.one({ sha256 });
    const known =
      file && (await runs.one({ logFileId: file.id, cellId: run.cellId }, { columns: ['id'] }));
    if (!known) throw error;
    return known.id;
  } finally {
    await clear();
  }
}

/**
 * Takes a run that ended in as evidence: its log, its figures, what was measured. Doing it again
 * changes nothing. What is refused is told, and the run stays to be tried again.
 */
export async function foldRun(
  lab: Lab,
  benchRunId: number,
  { inMemory = LARGEST_IN_MEMORY } = {},
): Promise<number | null> {
  const { bench, cells } = lab.store;
  const run = await bench.runs.one({ id: benchRunId });
  if (!run || run.state !== 'ended') return run?.runId ?? null;
  // The run was allowed when it began; its evidence is taken in whatever became of the cell since.
  const actor = await systemActor(lab, run.personId);
  const cell = (await cells.one({ id: run.cellId }))!;
  const records = await bench.records.find({ benchRunId }, { order: [['seq', 'ASC']] });
  const readings = records.filter(({ event }) => event === null);
  const clocksApart =
    records.flatMap(({ event }) =>
      event?.event === 'ended' ? [event.clocksApart ?? null] : [],
    )[0] ?? null;
  let first: number | null = null;
  const troubles: string[] = [];
  for (const [i, stretch] of stretchesOf(run, readings).entries()) {
    const fileName = `bench-run-${run.id}${i > 0 ? `-${i + 1}` : ''}-${cell.number}.csv`;
    const runId = await foldStretch(lab, actor, run, {
      stretch,
      fileName,
      clocksApart,
      inMemory,
    }).catch((error: unknown) => {
      troubles.push((error as Error).message);
      if (!(error instanceof LabError)) console.error(error);
      return null;
    });
    first ??= runId;
  }
  troubles.push(...(await keepMeasured(lab, actor, run, records)));
  if (troubles.length > 0) {
    await bench.runs.update({ runId: first }, { id: run.id, state: 'ended' });
    await noteTrouble(lab, run.id, troubles.join(' '));
    return first;
  }
  await bench.runs.update({ state: 'stored', runId: first }, { id: run.id, state: 'ended' });
  await bench.foldTroubles.remove({ benchRunId: run.id });
  return first;
}

/** The same record gives the same key: taken in again, it is not stored twice. */
function keyOf(benchRunId: number, seq: number): string {
  const hex = createHash('sha256').update(`bench run ${benchRunId}, record ${seq}`).digest('hex');
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-4${hex.slice(13, 16)}-8${hex.slice(17, 20)}-${hex.slice(20, 32)}`;
}

/** Readings a measuring step took become readings of the cell. @returns why some were refused. */
async function keepMeasured(
  lab: Lab,
  actor: Actor,
  run: BenchRunRow,
  records: readonly BenchRecordRow[],
): Promise<string[]> {
  const troubles: string[] = [];
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
      if (!(error instanceof LabError)) console.error(error);
      troubles.push(`A reading of step ${step + 1}: ${(error as Error).message}`);
    });
  }
  return troubles;
}

/** Runs taken in at one look, most. */
const MOST_AT_ONCE = 20;

/** Takes in all runs that ended and were not taken in yet; each by itself. @returns how many were tried. */
export async function foldEnded(lab: Lab): Promise<number> {
  const { runs, foldTroubles } = lab.store.bench;
  const waiting = new Set(
    (await foldTroubles.find({ nextAt: { above: lab.now() } })).map(({ benchRunId }) => benchRunId),
  );
  const all = await runs.find({ state: 'ended' }, { columns: ['id'], order: [['id', 'ASC']] });
  const ended = all.filter(({ id }) => !waiting.has(id)).slice(0, MOST_AT_ONCE);
  for (const { id } of ended)
    await foldRun(lab, id).catch(async (error: unknown) => {
      console.error(error);
      await noteTrouble(lab, id, (error as Error).message);
    });
  return ended.length;
}
