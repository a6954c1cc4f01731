import type { StoredColumn, TraceBlock } from '@dusk-tally/core/evidence';
import type { RunRow, Transaction } from '@dusk-tally/store';
import type { EffectiveClaim } from '../arrivals/claims';
import type { Lab } from '../shared';
import { figureRow } from './figure-rows';
import { testerAccuracy } from './instruments';

/** The stored trace of a run, still compressed. */
export async function blocksOfRun(
  lab: Lab,
  runId: number,
  transaction?: Transaction,
): Promise<TraceBlock[]> {
  const rows = await lab.store.traceBlocks.find({ runId }, { transaction });
  return rows.map((row) => ({
    column: row.columnName as StoredColumn,
    index: row.blockIndex,
    payload: new Uint8Array(row.payload),
  }));
}

/** Digits after the point of a stored trace; each block carries its own. */
export function decimalsOf(blocks: TraceBlock[]): {
  timeS: number;
  voltageV: number;
  currentA: number;
  temperatureC: number;
} {
  const digits = (column: StoredColumn) =>
    blocks.find((block) => block.column === column)?.payload[2] ?? 3;
  return {
    timeS: digits('timeS'),
    voltageV: digits('voltageV'),
    currentA: digits('currentA'),
    temperatureC: digits('temperatureC'),
  };
}

/** Computes the figures of all runs of a lot again, under its changed claim, as new rows. */
export async function recomputeRuns(
  lab: Lab,
  lotId: number,
  claim: EffectiveClaim,
  transaction: Transaction,
): Promise<void> {
  const runs = await lab.store.runs.find({ lotId }, { transaction, order: [['id', 'ASC']] });
  for (const run of runs) await recomputeRun(lab, run, claim, transaction);
}

async function recomputeRun(
  lab: Lab,
  run: RunRow,
  claim: EffectiveClaim,
  transaction: Transaction,
): Promise<void> {
  const { store } = lab;
  const blocks = await blocksOfRun(lab, run.id, transaction);
  const instrument = run.instrumentId
    ? await store.instruments.one({ id: run.instrumentId }, { transaction })
    : null;
  const channel = run.channelId
    ? await store.meters.channels.one({ id: run.channelId }, { transaction })
    : null;
  const file = await store.logFiles.one({ id: run.logFileId }, { transaction });
  const { figures, summary } = await lab.compute.recomputeLog({
    blocks,
    decimals: decimalsOf(blocks),
    summary: run.summary,
    cutoffV: claim.cutoffV.value,
    ratedAh: claim.capacityAh?.value ?? null,
    accuracy: testerAccuracy(instrument),
    leadMohm: run.leadMohm,
    voltageTable: channel?.voltageTable ?? [],
  });
  await store.runs.update({ summary }, { id: run.id }, transaction);
  const place = { cellId: run.cellId, lotId: run.lotId, runId: run.id, readingId: null };
  const input = {
    sha256: file?.sha256 ?? null,
    instrumentId: run.instrumentId,
    channelId: run.channelId,
    leadMohm: run.leadMohm,
  };
  await store.figures.insertMany(
    figures.map(({ figure, cutoffV }) => figureRow(figure, { ...place, cutoffV }, input)),
    transaction,
  );
}
