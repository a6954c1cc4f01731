import { z } from 'zod';
import { repeatsOf } from '../evidence';
import { loadClaim } from '../lots';
import { question } from '../shared';

/** One run of a cell that ran at several rates. */
export interface RatePoint {
  runId: number;
  rateIt: number;
  currentA: number;
  capacityAh: number;
  energyWh: number | null;
  meanC: number | null;
  maxC: number | null;
}

export interface RateSet {
  cell: string;
  points: RatePoint[];
}

/** Rates nearer than this are one rate. */
const ANOTHER_RATE = 1.15;

/** Capacity, energy and temperature against rate of this model’s cells that ran at several. */
export const rateSets = question({
  role: 'technician',
  input: z.object({ lotId: z.int() }),
  run: async (lab, { lotId }): Promise<RateSet[]> => {
    const { claim, model } = await loadClaim(lab, lotId);
    const ratedAh = claim.capacityAh?.value ?? null;
    const repeats = (await repeatsOf(lab)).filter((row) => row.modelId === model.id);
    const runIds = repeats.map(({ runId }) => runId);
    const energies =
      runIds.length > 0
        ? await lab.store.figures.find(
            { runId: runIds, quantity: 'energy' },
            { columns: ['id', 'runId', 'value', 'cutoffV'], order: [['id', 'ASC']] },
          )
        : [];
    const energyOf = new Map(energies.map((row) => [`${row.runId}/${row.cutoffV}`, row.value]));
    const byCell = new Map<string, RatePoint[]>();
    for (const row of repeats) {
      const { meanCurrentA, meanTemperatureC, maxTemperatureC } = row.summary;
      if (!meanCurrentA) continue;
      const points = byCell.get(row.cell) ?? [];
      points.push({
        runId: row.runId,
        rateIt: meanCurrentA / (ratedAh ?? row.value),
        currentA: meanCurrentA,
        capacityAh: row.value,
        energyWh: energyOf.get(`${row.runId}/${row.cutoffV}`) ?? null,
        meanC: meanTemperatureC ?? row.ambientC,
        maxC: maxTemperatureC,
      });
      byCell.set(row.cell, points);
    }
    return [...byCell].flatMap(([cell, points]): RateSet[] => {
      const rates = points.map(({ rateIt }) => rateIt);
      if (Math.max(...rates) < ANOTHER_RATE * Math.min(...rates)) return [];
      return [{ cell, points: points.sort((a, b) => a.rateIt - b.rateIt) }];
    });
  },
});
