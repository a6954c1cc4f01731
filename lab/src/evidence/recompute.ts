import { availableParallelism } from 'node:os';
import type { StoredColumn, TraceBlock } from '@dusk-tally/core/evidence';
import type { Figure } from '@dusk-tally/core/units';
import type { RunRow, Transaction } from '@dusk-tally/store';
import { z } from 'zod';
import { type EffectiveClaim, loadClaim } from '../lots';
import { found, type Lab, question } from '../shared';
import { figureRow } from '../derived';
import { testerAccuracy } from './instruments';
import { metersThen } from './meter-periods';
import { runInputHash } from './run-inputs';

/** The stored trace of a run, still compressed. */
export async function blocksOfRun(
  lab: Lab,
  runId: number,
  transaction?: Transaction,
): Promise<TraceBlock[]> {
  const rows = await lab.store.traceBlocks.find({ runId }, { transaction });
  const samples = rows.filter((row) => !row.columnName.startsWith('pyramid'));
  return samples.map((row) => ({
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

/** Runs under computation at one time: enough for every core, few enough to hold in memory. */
const AT_ONCE = 2 * availableParallelism();

/**
 * Computes the figures of a lot’s runs again, under its changed claim, as new rows.
 * @param only these runs; all of the lot where absent.
 */
export async function recomputeRuns(
  lab: Lab,
  lotId: number,
  claim: EffectiveClaim,
  transaction: Transaction,
  only?: readonly number[],
): Promise<void> {
  const runs = await lab.store.runs.find(only ? { lotId, id: [...only] } : { lotId }, {
    transaction,
    columns: ['id'],
    order: [['id', 'ASC']],
  });
  const waiting = runs.map((run) => run.id);
  // A few at a time: the workers compute side by side, the transaction stores in order.
  const takeTurns = async () => {
    for (let id = waiting.shift(); id !== undefined; id = waiting.shift()) {
      const run = await lab.store.runs.one({ id }, { transaction });
      if (run) await recomputeRun(lab, run, claim, transaction);
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, takeTurns));
}

/** What today’s method makes of a run’s stored trace. */
async function computeAgain(
  lab: Lab,
  run: RunRow,
  claim: EffectiveClaim,
  cutoffV: number,
  transaction?: Transaction,
) {
  const blocks = await blocksOfRun(lab, run.id, transaction);
  const meters = await metersThen(lab, transaction);
  const instrument = meters.instrument(run.instrumentId, meters.dayOf(run));
  const voltageTable = meters.channel(run.channelId, meters.dayOf(run))?.voltageTable ?? [];
  const loadOnly = meters.loadOnly(run.channelId);
  const made = await lab.compute.recomputeLog({
    blocks,
    rows: run.rows,
    decimals: decimalsOf(blocks),
    summary: run.summary,
    cutoffV,
    ratedAh: claim.capacityAh?.value ?? null,
    accuracy: testerAccuracy(instrument),
    leadMohm: run.leadMohm,
    leadUncertaintyMohm: run.leadUncertaintyMohm,
    voltageTable,
    loadOnly,
  });
  return { ...made, inputHash: runInputHash({ run, claim, instrument, voltageTable, loadOnly }) };
}

async function recomputeRun(
  lab: Lab,
  run: RunRow,
  claim: EffectiveClaim,
  transaction: Transaction,
): Promise<void> {
  const { store } = lab;
  const file = await store.logFiles.one({ id: run.logFileId }, { transaction });
  const { figures, summary, inputHash } = await computeAgain(
    lab,
    run,
    claim,
    claim.cutoffV.value,
    transaction,
  );
  await store.runs.update({ summary, inputHash }, { id: run.id }, transaction);
  const place = { cellId: run.cellId, lotId: run.lotId, runId: run.id, readingId: null };
  const input = {
    sha256: file?.sha256 ?? null,
    instrumentId: run.instrumentId,
    channelId: run.channelId,
    leadMohm: run.leadMohm,
    leadUncertaintyMohm: run.leadUncertaintyMohm,
  };
  await store.figures.insertMany(
    figures.map(({ figure, cutoffV }) => figureRow(figure, { ...place, cutoffV }, input)),
    transaction,
  );
}

/** A stored figure beside what today’s method makes of the same trace. */
export interface CheckedFigure {
  quantity: Figure['quantity'];
  stored: { id: number; value: number; methodVersion: number };
  now: { value: number; methodVersion: number } | null;
  /** Value and uncertainty agree to the last bit. */
  same: boolean;
}

/** Computes a run again without storing anything, and says whether the bits are the same. */
export const checkRun = question({
  role: 'technician',
  input: z.object({ id: z.int() }),
  run: async (lab, { id }): Promise<CheckedFigure[]> => {
    const run = found(await lab.store.runs.one({ id }), 'That run');
    const { claim } = await loadClaim(lab, run.lotId);
    const stored = await lab.store.figures.find({ runId: id }, { order: [['id', 'ASC']] });
    const newest = new Map(
      stored
        .filter(({ quantity, cutoffV }) => {
          const ofTrace = quantity !== 'capacityAtClaim';
          return ofTrace && (cutoffV === null || cutoffV === run.summary.cutoffV);
        })
        .map((row) => [row.quantity, row]),
    );
    const { figures } = await computeAgain(lab, run, claim, run.summary.cutoffV);
    return [...newest.values()].map((row): CheckedFigure => {
      const now = figures.find(({ figure }) => figure.quantity === row.quantity)?.figure ?? null;
      return {
        quantity: row.quantity,
        stored: { id: row.id, value: row.value, methodVersion: row.methodVersion },
        now: now ? { value: now.value, methodVersion: now.method.version } : null,
        same:
          now !== null &&
          now.value === row.value &&
          now.standardUncertainty === row.standardUncertainty,
      };
    });
  },
});
