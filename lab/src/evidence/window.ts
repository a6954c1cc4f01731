import { decodeCurve, type FullCurve } from '@dusk-tally/core/evidence';
import { z } from 'zod';
import { heldRuns, isWholeDischarge } from './held-runs';
import type { WindowView } from '../compute';
import { loadClaim } from '../lots';

export type { WindowView } from '../compute';
import { found, type Lab, question } from '../shared';
import { testerAccuracy } from './instruments';
import { metersThen } from './meter-periods';
import { blocksOfRun, decimalsOf } from './recompute';

/** Full curves looked at, newest first. */
const MOST_CURVES = 60;

/** Newest full discharge of every other cell of the same model at the same cut-off. */
async function fullCurves(
  lab: Lab,
  modelId: number,
  cutoffV: number,
  cellId: number,
): Promise<FullCurve[]> {
  const { store } = lab;
  const lots = await store.lots.find({ modelId }, { columns: ['id'] });
  const runs = await store.runs.find(
    { lotId: lots.map(({ id }) => id) },
    { columns: ['id', 'cellId', 'curve', 'summary'], order: [['id', 'DESC']] },
  );
  const held = await heldRuns(
    lab,
    lots.map(({ id }) => id),
  );
  const curves = new Map<number, FullCurve>();
  for (const run of runs) {
    const { summary } = run;
    const isFull = isWholeDischarge(summary) && !held.has(run.id);
    if (run.cellId === cellId || curves.has(run.cellId) || !isFull || summary.loadOnS === null)
      continue;
    const { curve } = decodeCurve(new Uint8Array(run.curve));
    const end = curve.voltageV.findIndex((v, i) => i > 0 && v <= cutoffV);
    const fullAh = curve.chargeAh[end < 0 ? curve.chargeAh.length - 1 : end]!;
    curves.set(run.cellId, {
      cell: String(run.cellId),
      ah: curve.chargeAh,
      voltageV: curve.voltageV,
      fullAh,
    });
    if (curves.size >= MOST_CURVES) break;
  }
  return [...curves.values()];
}

/** Charge of a run between two voltages, and what the model’s full curves make of it. */
export const runWindow = question({
  role: 'technician',
  input: z.object({
    id: z.int(),
    fromV: z.number('Expected a voltage.').positive().max(1000),
    toV: z.number('Expected a voltage.').positive().max(1000),
  }),
  run: async (lab, { id, fromV, toV }): Promise<WindowView> => {
    const { store } = lab;
    const run = found(await store.runs.one({ id }), 'That run');
    const [{ model }, blocks, meters] = await Promise.all([
      loadClaim(lab, run.lotId),
      blocksOfRun(lab, id),
      metersThen(lab),
    ]);
    const instrument = meters.instrument(run.instrumentId, meters.dayOf(run));
    const channel = meters.channel(run.channelId, meters.dayOf(run));
    return lab.compute.windowOfRun({
      blocks,
      rows: run.rows,
      decimals: decimalsOf(blocks),
      fromV,
      toV,
      accuracy: testerAccuracy(instrument),
      leadMohm: run.leadMohm,
      leadUncertaintyMohm: run.leadUncertaintyMohm,
      voltageTable: channel?.voltageTable ?? [],
      loadOnly: meters.loadOnly(run.channelId),
      curves: await fullCurves(lab, model.id, run.summary.cutoffV, run.cellId),
    });
  },
});
