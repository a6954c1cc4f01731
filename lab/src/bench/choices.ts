import { mayGoOnTester } from '@dusk-tally/core/arrivals';
import type { RecipeConditions } from '@dusk-tally/core/bench';
import { CHEMISTRY_PROFILES, type Chemistry } from '@dusk-tally/core/chemistry';
import { z } from 'zod';
import { question } from '../shared';

/** A lot with cells that may go on the bench. */
export interface BenchLot {
  id: number;
  code: string;
  title: string;
  cells: { id: number; number: string; tested: boolean; ready: boolean }[];
}

/** Lots with cells, newest first, and which of them may go on a tester. */
export const benchLots = question({
  role: 'technician',
  input: z.object({}),
  run: async (lab): Promise<BenchLot[]> => {
    const { store } = lab;
    const lots = await store.lots.find({ cancelledAt: null }, { order: [['id', 'DESC']] });
    const [cells, arrivals, runs] = await Promise.all([
      store.cells.find(
        { lotId: [...lots.map(({ id }) => id)] },
        {
          columns: ['id', 'lotId', 'number', 'position'],
          order: [['position', 'ASC']],
        },
      ),
      store.arrivals.cells.find({}, { columns: ['cellId', 'gate'] }),
      store.runs.find({}, { columns: ['cellId'] }),
    ]);
    const gate = new Map(arrivals.map((row) => [row.cellId, row.gate]));
    const tested = new Set(runs.map(({ cellId }) => cellId));
    const byLot = new Map<number, BenchLot['cells']>();
    for (const { id, lotId, number } of cells) {
      const list = byLot.get(lotId) ?? [];
      byLot.set(lotId, list);
      list.push({
        id,
        number,
        tested: tested.has(id),
        ready: mayGoOnTester(gate.get(id)),
      });
    }
    return lots.flatMap(({ id, code, title }) => {
      const own = byLot.get(id) ?? [];
      return own.length > 0 ? [{ id, code, title, cells: own }] : [];
    });
  },
});

/** Models a recipe is tried with while it is written. */
export const triedModels = question({
  role: 'technician',
  input: z.object({}),
  run: async (
    lab,
  ): Promise<{ name: string; chemistry: Chemistry; conditions: RecipeConditions }[]> => {
    const models = await lab.store.cellModels.find({}, { order: [['name', 'ASC']] });
    const own = models.flatMap((model) => {
      const profile = CHEMISTRY_PROFILES[model.chemistry];
      return model.ratedAh
        ? [
            {
              name: model.name,
              chemistry: model.chemistry,
              conditions: {
                ratedAh: model.ratedAh,
                claimRateIt: model.rateIt ?? 0.2,
                claimCutoffV: model.cutoffV ?? profile.cutoffV,
                chargeV: model.chargeV ?? profile.chargeV,
                storageV: (profile.storageV[0] + profile.storageV[1]) / 2,
                maxChargeA: model.maxChargeA,
                maxDischargeA: model.maxDischargeA,
              },
            },
          ]
        : [];
    });
    const lfp = CHEMISTRY_PROFILES.LFP;
    return own.length > 0
      ? own
      : [
          {
            name: 'an LFP cell of 100 Ah',
            chemistry: 'LFP',
            conditions: {
              ratedAh: 100,
              claimRateIt: 0.2,
              claimCutoffV: lfp.cutoffV,
              chargeV: lfp.chargeV,
              storageV: 3.275,
              maxChargeA: null,
              maxDischargeA: null,
            },
          },
        ];
  },
});
