import { countedReadings } from '@dusk-tally/core/resting';
import { z } from 'zod';
import { question } from '../shared';
import { readRests } from './refresh-rests';

/** What one rest lost, reading by reading. */
export interface RestCurve {
  restId: number;
  cell: string;
  lotId: number;
  lot: string;
  isFastLoser: boolean;
  /** Days since the charge, and what was lost since the first counted reading, mV. */
  points: { days: number; lostMv: number; voltageV: number; temperatureC: number | null }[];
}

/** Losses against days: of all cells of the lots on the shelf, of one lot, or of one cell. */
export const restCurves = question({
  role: 'technician',
  input: z.object({ lotId: z.int().optional(), cellId: z.int().optional() }),
  run: async (lab, { lotId, cellId }): Promise<RestCurve[]> => {
    const { store } = lab;
    const open =
      lotId === undefined && cellId === undefined
        ? await store.resting.rests.find({ endedAt: null }, { columns: ['lotId'] })
        : null;
    const lots = open ? [...new Set(open.map((rest) => rest.lotId))] : null;
    if (lots?.length === 0) return [];
    const rests = await store.resting.rests.find(
      {
        takenOff: false,
        ...(lots && { lotId: lots }),
        ...(lotId !== undefined && { lotId }),
        ...(cellId !== undefined && { cellId }),
      },
      { order: [['id', 'ASC']] },
    );
    if (rests.length === 0) return [];
    const [read, cells, codes] = await Promise.all([
      readRests(lab, rests),
      store.cells.find(
        { id: [...new Set(rests.map((rest) => rest.cellId))] },
        { columns: ['id', 'number'] },
      ),
      store.lots.find(
        { id: [...new Set(rests.map((rest) => rest.lotId))] },
        { columns: ['id', 'code'] },
      ),
    ]);
    const numbers = new Map(cells.map(({ id, number }) => [id, number]));
    const codeOf = new Map(codes.map(({ id, code }) => [id, code]));
    return read.flatMap(({ rest, readings }): RestCurve[] => {
      const counted = countedReadings(readings);
      const first = counted[0];
      if (!first) return [];
      return [
        {
          restId: rest.id,
          cell: numbers.get(rest.cellId) ?? '',
          lotId: rest.lotId,
          lot: codeOf.get(rest.lotId) ?? '',
          isFastLoser: rest.detail.isFastLoser === true,
          points: counted.map(({ days, voltageV, temperatureC }) => ({
            days,
            lostMv: 1000 * (first.voltageV - voltageV),
            voltageV,
            temperatureC,
          })),
        },
      ];
    });
  },
});
