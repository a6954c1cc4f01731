import type { AlikeAssessment, StandingRow, Transaction } from '@dusk-tally/store';
import type { Origin } from '../derived';
import type { Lab } from '../shared';

/** Where a cell stands: as a whole, and item by item. */
export interface JudgedCell {
  row: StandingRow;
  items: AlikeAssessment[];
}

/** From so many cells that stand alike on, one statement writes them all. */
const FROM_ALIKE = 20;

/** Judged cells of a lot as they are to be written. */
export interface Judged {
  lotId: number;
  judged: readonly JudgedCell[];
  /** Items that are told of no cell any more go, too. */
  isWholeLot: boolean;
  /** The act it goes back to. */
  origin?: Origin;
}

/** Writes what changed; cells that stand alike in one statement for each item. */
export async function writeJudged(
  lab: Lab,
  { lotId, judged, isWholeLot, origin }: Judged,
  transaction: Transaction,
): Promise<void> {
  const { standings, assessments } = lab.store.verdicts;
  const before = await standings.find(
    isWholeLot ? { lotId } : { cellId: judged.map(({ row }) => row.cellId) },
    { transaction, columns: ['cellId', 'inputHash'] },
  );
  const hashes = new Map(before.map((row) => [row.cellId, row.inputHash]));
  const changed = judged.filter(({ row }) => hashes.get(row.cellId) !== row.inputHash);
  if (origin && !origin.isAbout(lotId) && changed.length > 0)
    await noteMoves(lab, lotId, changed, origin, transaction);
  const groups = new Map<string, JudgedCell[]>();
  for (const one of changed) {
    const group = groups.get(one.row.inputHash);
    if (group) group.push(one);
    else groups.set(one.row.inputHash, [one]);
  }
  const single: JudgedCell[] = [];
  for (const group of groups.values()) {
    // A figure belongs to one cell: those that share a hash share their figures, so they have none.
    if (group.length < FROM_ALIKE) single.push(...group);
    else await writeAlike(lab, lotId, group, hashes, transaction);
  }
  await standings.replaceMany(
    single.map(({ row }) => row),
    transaction,
  );
  await assessments.replaceMany(
    single.flatMap(({ row: { cellId }, items }) =>
      items.map((item) => ({ ...item, cellId, lotId })),
    ),
    transaction,
  );
  const [any] = judged;
  if (isWholeLot && any && changed.length > 0)
    await lab.store.verdicts.dropItems(
      lotId,
      any.items.map(({ item }) => item),
      transaction,
    );
}

/** Notes which items of a lot the act was not about come to stand elsewhere. */
async function noteMoves(
  lab: Lab,
  lotId: number,
  changed: readonly JudgedCell[],
  origin: Origin,
  transaction: Transaction,
): Promise<void> {
  const before = await lab.store.verdicts.assessments.find(
    { lotId, cellId: changed.map(({ row }) => row.cellId) },
    { transaction, columns: ['cellId', 'item', 'state', 'value'] },
  );
  const known = new Map(before.map((row) => [`${row.cellId} ${row.item}`, row]));
  for (const { row, items } of changed)
    for (const { item, state, value } of items) {
      const old = known.get(`${row.cellId} ${item}`);
      if (old)
        origin.note(lotId, {
          cellId: row.cellId,
          item,
          before: { state: old.state, value: old.value },
          after: { state, value },
        });
    }
}

async function writeAlike(
  lab: Lab,
  lotId: number,
  group: readonly JudgedCell[],
  known: ReadonlyMap<number, string>,
  transaction: Transaction,
): Promise<void> {
  const { verdicts } = lab.store;
  const { cellId: _cell, lotId: _lot, ...patch } = group[0]!.row;
  const rows = group.map(({ row }) => row);
  const there = rows.flatMap(({ cellId }) => (known.has(cellId) ? [cellId] : []));
  if (there.length > 0) await verdicts.standings.update(patch, { cellId: there }, transaction);
  await verdicts.standings.replaceMany(
    rows.filter(({ cellId }) => !known.has(cellId)),
    transaction,
  );
  await verdicts.assessAlike(
    lotId,
    rows.map(({ cellId }) => cellId),
    group[0]!.items,
    transaction,
  );
}
