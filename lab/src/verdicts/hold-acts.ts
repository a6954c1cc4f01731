import type { ResultHoldRow, Transaction } from '@dusk-tally/store';
import { z } from 'zod';
import { openLot } from '../lots';
import { found, type Lab, LabError, procedure, question } from '../shared';
import { clash, reason } from './hold-parts';

/** Lifts a hold with a reason that stays visible (handbook, chapter 3). */
export const liftHold = procedure({
  role: 'lead',
  input: z.object({ holdId: z.int(), version: z.int().optional(), reason }),
  run: async ({ lab, actor, input, transaction, audit, changed }): Promise<void> => {
    const { holds } = lab.store.results;
    const place = found(await holds.one({ id: input.holdId }, { transaction }), 'That hold');
    await openLot(lab, place.lotId, transaction, true);
    const hold = found(
      await holds.one({ id: input.holdId }, { transaction, forUpdate: true }),
      'That hold',
    );
    if (hold.liftedAt !== null || (input.version ?? hold.version) !== hold.version) clash();
    await holds.update(
      {
        liftedAt: lab.now(),
        liftedBy: actor.id,
        liftReason: input.reason,
        version: hold.version + 1,
      },
      { id: hold.id },
      transaction,
    );
    changed({ what: 'holds', lotId: hold.lotId, cellIds: [hold.cellId] });
    await audit({
      act: 'lifted hold',
      subjectType: 'cell',
      subjectId: await numberOf(lab, hold.cellId, transaction),
      before: { rule: hold.rule, text: hold.text, runId: hold.runId, readingId: hold.readingId },
      after: { reason: input.reason },
    });
  },
});

const numberOf = async (lab: Lab, cellId: number, transaction: Transaction): Promise<string> =>
  found(await lab.store.cells.one({ id: cellId }, { transaction }), 'The cell').number;

/** A person sets a result aside: a spoilt test, with its reason. */
export const setAside = procedure({
  role: 'technician',
  input: z
    .object({ runId: z.int().nullable(), readingId: z.int().nullable(), reason })
    .refine(({ runId, readingId }) => (runId === null) !== (readingId === null), {
      message: 'Expected a run or a typed reading.',
    }),
  run: async ({ lab, actor, input, transaction, audit, changed }): Promise<void> => {
    const { store } = lab;
    const { holds } = store.results;
    const result =
      input.runId !== null
        ? found(await store.runs.one({ id: input.runId }, { transaction }), 'That run')
        : found(
            await store.readings.one({ id: input.readingId! }, { transaction }),
            'That reading',
          );
    await openLot(lab, result.lotId, transaction, true);
    const place = { runId: input.runId, readingId: input.readingId };
    const known = await holds.one({ ...place, rule: 'byHand' }, { transaction, forUpdate: true });
    if (known && known.liftedAt === null)
      throw new LabError('duplicate', 'This result is set aside already.');
    const row = {
      ...place,
      lotId: result.lotId,
      cellId: result.cellId,
      rule: 'byHand' as const,
      text: input.reason,
      personId: actor.id,
      at: lab.now(),
      liftedAt: null,
      liftedBy: null,
      liftReason: null,
    };
    if (known)
      await holds.update({ ...row, version: known.version + 1 }, { id: known.id }, transaction);
    else await holds.insert(row, transaction);
    changed({ what: 'holds', lotId: result.lotId, cellIds: [result.cellId] });
    await audit({
      act: 'set result aside',
      subjectType: 'cell',
      subjectId: await numberOf(lab, result.cellId, transaction),
      after: { ...place, reason: input.reason },
    });
  },
});

/** A hold with who said and who lifted it. */
export interface HoldLine extends ResultHoldRow {
  cell: string;
  person: string | null;
  lifter: string | null;
}

/** Holds of a lot or a cell, open ones first, with those that were lifted. */
export const holdsView = question({
  role: 'technician',
  input: z.object({ lotId: z.int(), cellId: z.int().optional() }),
  run: async (lab, { lotId, cellId }): Promise<HoldLine[]> => {
    const { store } = lab;
    const rows = await store.results.holds.find(cellId ? { lotId, cellId } : { lotId }, {
      order: [['id', 'ASC']],
    });
    if (rows.length === 0) return [];
    const [people, cells] = await Promise.all([
      store.people.find({}, { columns: ['id', 'name'] }),
      store.cells.find(
        { id: [...new Set(rows.map((row) => row.cellId))] },
        { columns: ['id', 'number'] },
      ),
    ]);
    const name = new Map(people.map((person) => [person.id, person.name]));
    const number = new Map(cells.map((cell) => [cell.id, cell.number]));
    return rows
      .map((row) => ({
        ...row,
        cell: number.get(row.cellId) ?? '',
        person: row.personId === null ? null : (name.get(row.personId) ?? null),
        lifter: row.liftedBy === null ? null : (name.get(row.liftedBy) ?? null),
      }))
      .sort((a, b) => Number(a.liftedAt !== null) - Number(b.liftedAt !== null));
  },
});
