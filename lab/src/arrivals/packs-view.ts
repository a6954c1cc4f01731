import type { CellRow, PackRow } from '@dusk-tally/store';
import { z } from 'zod';
import { question } from '../shared';
import { labDay } from '../lots';

type PackCell = Pick<CellRow, 'id' | 'number' | 'groupIndex' | 'harvest' | 'version'> & {
  firstV: number | null;
};

export interface PacksView {
  packs: (PackRow & { cells: PackCell[]; openedByName: string | null; weakGroup: string | null })[];
  /** Harvest over all opened packs. */
  yield: { good: number; questionable: number; dead: number; minutes: number; opened: number };
  acknowledgedToday: boolean;
}

/** Volts by which a group’s mean lies under its pack’s median before it is called weak. */
const WEAK_GROUP_V = 0.05;

/** Packs of a lot, the cells they gave, and what a weak group points at. */
export const packsOfLot = question({
  role: 'technician',
  input: z.object({ lotId: z.int() }),
  run: async (lab, { lotId }, actor): Promise<PacksView> => {
    const { store } = lab;
    const [packs, cells, arrivals, people, day] = await Promise.all([
      store.arrivals.packs.find({ lotId }, { order: [['id', 'ASC']] }),
      store.cells.find(
        { lotId },
        {
          order: [['position', 'ASC']],
          columns: ['id', 'number', 'packId', 'groupIndex', 'harvest', 'version'],
        },
      ),
      store.arrivals.cells.find({ lotId }, { columns: ['cellId', 'firstV'] }),
      store.people.find({}, { columns: ['id', 'name'] }),
      labDay(lab),
    ]);
    const acknowledged = await store.arrivals.acknowledgements.one({
      personId: actor.id,
      kind: 'breakdown',
      day,
    });
    const volts = new Map(arrivals.map((row) => [row.cellId, row.firstV]));
    const name = new Map(people.map((person) => [person.id, person.name]));
    const harvested = cells.filter((cell) => cell.packId !== null);
    const count = (harvest: CellRow['harvest']) =>
      harvested.filter((cell) => cell.harvest === harvest).length;
    return {
      packs: packs.map((pack) => {
        const own = harvested
          .filter((cell) => cell.packId === pack.id)
          .map((cell): PackCell => ({ ...cell, firstV: volts.get(cell.id) ?? null }));
        return {
          ...pack,
          cells: own,
          openedByName: pack.openedBy === null ? null : (name.get(pack.openedBy) ?? ''),
          weakGroup: weakGroupOf(own),
        };
      }),
      yield: {
        good: count('good'),
        questionable: count('questionable'),
        dead: count('dead'),
        minutes: packs.reduce((sum, pack) => sum + (pack.minutes ?? 0), 0),
        opened: packs.filter((pack) => pack.openedAt).length,
      },
      acknowledgedToday: acknowledged !== null,
    };
  },
});

function weakGroupOf(cells: readonly PackCell[]): string | null {
  const groups = new Map<number, number[]>();
  for (const { groupIndex, firstV } of cells)
    if (groupIndex !== null && firstV !== null)
      groups.set(groupIndex, [...(groups.get(groupIndex) ?? []), firstV]);
  if (groups.size < 3) return null;
  const means = [...groups].map(([group, values]) => ({
    group,
    meanV: values.reduce((a, b) => a + b, 0) / values.length,
    size: values.length,
  }));
  const sorted = means.map(({ meanV }) => meanV).sort((a, b) => a - b);
  const middle = sorted[sorted.length >> 1]!;
  const weak = means.filter(({ meanV }) => meanV < middle - WEAK_GROUP_V);
  if (weak.length === 0 || weak.length > groups.size / 3) return null;
  const { group, meanV, size } = weak.sort((a, b) => a.meanV - b.meanV)[0]!;
  return `Group ${group} stands ${Math.round(1000 * (middle - meanV))} mV under the others${
    size > 1 ? ': one leaking cell in it draws its whole group down' : ''
  }.`;
}
