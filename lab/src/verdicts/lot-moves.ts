import type { ClaimKind } from '@dusk-tally/core/arrivals';
import type { ItemStateName } from '@dusk-tally/core/verdicts';
import type { LotMoveRow, Transaction } from '@dusk-tally/store';
import { z } from 'zod';
import type { MovedItem, Origin } from '../derived';
import { labDay } from '../lots';
import { type ChangeKind, type Lab, question } from '../shared';

/** So many cells that stand elsewhere are named. */
const MOST_CROSSED = 200;

type Detail = LotMoveRow['detail'];

function shareMoved({ before, after }: MovedItem): number | null {
  if (before.value === null || after.value === null || before.value === 0) return null;
  return Math.abs(after.value / before.value - 1);
}

/** What moved, item by item. */
function detailOf(moved: readonly MovedItem[], fromLots: readonly number[]): Detail {
  const items = new Map<string, { cells: number; most: number | null }>();
  for (const one of moved) {
    const own = items.get(one.item) ?? { cells: 0, most: null };
    own.cells++;
    const share = shareMoved(one);
    if (share !== null) own.most = Math.max(own.most ?? 0, share);
    items.set(one.item, own);
  }
  return {
    fromLots: [...fromLots],
    items: [...items].map(([item, row]) => ({ item: item as ClaimKind, ...row })),
    crossed: moved.flatMap(({ cellId, item, before, after }) =>
      before.state === after.state
        ? []
        : [
            {
              cellId,
              item: item as ClaimKind,
              from: before.state as ItemStateName,
              to: after.state as ItemStateName,
            },
          ],
    ),
  };
}

const largest = (a: number | null, b: number | null): number | null =>
  a === null || b === null ? (a ?? b) : Math.max(a, b);

/** A day’s moves and one more: what went and came back is not named. */
function together(before: Detail, next: Detail): Detail {
  const items = new Map(before.items.map((row) => [row.item, row]));
  for (const row of next.items) {
    const own = items.get(row.item);
    items.set(row.item, {
      item: row.item,
      cells: Math.max(own?.cells ?? 0, row.cells),
      most: largest(own?.most ?? null, row.most),
    });
  }
  const crossed = new Map(before.crossed.map((row) => [`${row.cellId} ${row.item}`, row]));
  for (const row of next.crossed) {
    const key = `${row.cellId} ${row.item}`;
    crossed.set(key, { ...row, from: crossed.get(key)?.from ?? row.from });
  }
  return {
    fromLots: [...new Set([...before.fromLots, ...next.fromLots])],
    items: [...items.values()],
    crossed: [...crossed.values()].filter(({ from, to }) => from !== to),
  };
}

/** Keeps what an act moved in lots it was not about: one row a day and kind of cause. */
export async function keepMoves(lab: Lab, origin: Origin, transaction: Transaction): Promise<void> {
  const moved = origin.movedLots();
  if (moved.size === 0) return;
  const { lotMoves } = lab.store.verdicts;
  const day = await labDay(lab);
  const causes = [...new Set(origin.changes.map(({ what }) => what))].sort().join(',');
  const fromLots = [...new Set(origin.changes.flatMap(({ lotId }) => lotId ?? []))];
  for (const [lotId, items] of moved) {
    const next = detailOf(items, fromLots);
    const known = await lotMoves.one({ lotId, day, causes }, { transaction });
    const detail = known ? together(known.detail, next) : next;
    detail.crossed = detail.crossed.slice(0, MOST_CROSSED);
    const row = { at: lab.now(), detail };
    if (known) await lotMoves.update(row, { id: known.id }, transaction);
    else await lotMoves.insert({ lotId, day, causes, ...row }, transaction);
  }
}

/** What moved in a lot without an act on it. */
export interface LotMove {
  day: string;
  causes: ChangeKind[];
  /** Codes of the lots whose results it goes back to; none where a rule changed. */
  fromLots: string[];
  items: Detail['items'];
  crossed: { cell: string; item: ClaimKind; from: ItemStateName; to: ItemStateName }[];
}

/** So many days and causes are told, the newest first. */
const MOST_MOVES = 12;

export const movesOfLot = question({
  role: 'technician',
  input: z.object({ lotId: z.number().int() }),
  run: async (lab, { lotId }): Promise<LotMove[]> => {
    const rows = await lab.store.verdicts.lotMoves.find(
      { lotId },
      {
        order: [
          ['at', 'DESC'],
          ['id', 'DESC'],
        ],
        limit: MOST_MOVES,
      },
    );
    const [cells, lots] = await Promise.all([
      lab.store.cells.find(
        { id: [...new Set(rows.flatMap(({ detail }) => detail.crossed.map((c) => c.cellId)))] },
        { columns: ['id', 'number'] },
      ),
      lab.store.lots.find(
        { id: [...new Set(rows.flatMap(({ detail }) => detail.fromLots))] },
        { columns: ['id', 'code'] },
      ),
    ]);
    const number = new Map(cells.map((cell) => [cell.id, cell.number]));
    const code = new Map(lots.map((lot) => [lot.id, lot.code]));
    return rows.map(({ day, causes, detail }) => ({
      day,
      causes: causes.split(',') as ChangeKind[],
      fromLots: detail.fromLots.flatMap((id) => code.get(id) ?? []),
      items: detail.items,
      crossed: detail.crossed.map(({ cellId, ...row }) => ({
        cell: number.get(cellId) ?? '',
        ...row,
      })),
    }));
  },
});
