import { findingKind } from '@dusk-tally/core/arrivals';
import type { Transaction } from '@dusk-tally/store';
import { z } from 'zod';
import { found, type Lab, LabError, procedure, question } from '../shared';
import { openLot, takeBatch } from '../lots';
import { findingsOfEntries } from './refresh-arrivals';

const note = z
  .string()
  .trim()
  .max(400)
  .nullish()
  .transform((text) => text || null);
const cellIds = z.array(z.int()).min(1, 'Expected at least one cell.').max(20_000);

export const inspectionInput = z.object({
  lotId: z.int(),
  clientKey: z.uuid(),
  marks: z
    .array(
      z.discriminatedUnion('act', [
        z.object({ act: z.literal('clear'), cellIds }),
        /** Everything nobody has looked at yet; the cells named are left out. */
        z.object({ act: z.literal('clearRest'), except: z.array(z.int()).max(20_000) }),
        z.object({ act: z.literal('finding'), cellIds, code: z.string().max(30), note }),
      ]),
    )
    .min(1)
    .max(500),
});

/** Keeps what an inspection saw, for one or many cells. Sending a batch again does nothing. */
export const recordInspection = procedure({
  role: 'technician',
  input: inspectionInput,
  run: async ({ lab, actor, input, transaction, audit, changed }): Promise<{ cells: number }> => {
    const { arrivals } = lab.store;
    const lot = await openLot(lab, input.lotId, transaction);
    if (!(await takeBatch(lab, input.clientKey, transaction))) return { cells: 0 };
    const touched = new Set<number>();
    const at = lab.now();
    for (const mark of input.marks) {
      const ids =
        mark.act === 'clearRest'
          ? await restOf(lab, lot.id, mark.except, transaction)
          : await ofLot(lab, lot.id, mark.cellIds, transaction);
      if (ids.length === 0) continue;
      const code = mark.act === 'finding' ? knownCode(mark.code) : null;
      await arrivals.markCells(
        {
          lotId: lot.id,
          act: mark.act === 'finding' ? 'finding' : 'clear',
          code,
          note: mark.act === 'finding' ? mark.note : null,
          personId: actor.id,
          at,
        },
        ids,
        transaction,
      );
      for (const id of ids) touched.add(id);
      await audit({
        act: mark.act === 'finding' ? 'found on cells' : 'inspected, clear',
        subjectType: 'lot',
        subjectId: lot.code,
        after: {
          cells: ids.length > 50 ? `${ids.length} cells` : await numbersOf(lab, ids, transaction),
          ...(mark.act === 'finding' ? { code, note: mark.note } : {}),
        },
      });
    }
    changed({ what: 'inspection', lotId: lot.id, cellIds: [...touched] });
    return { cells: touched.size };
  },
});

function knownCode(code: string): string {
  try {
    return findingKind(code).code;
  } catch (error) {
    throw new LabError('invalid', (error as Error).message);
  }
}

async function ofLot(
  lab: Lab,
  lotId: number,
  ids: number[],
  transaction: Transaction,
): Promise<number[]> {
  const wanted = [...new Set(ids)];
  const rows = await lab.store.cells.find({ lotId, id: wanted }, { transaction, columns: ['id'] });
  if (rows.length !== wanted.length)
    throw new LabError(
      'notFound',
      'A mark names a cell that is not of this lot. Nothing was stored.',
    );
  return wanted;
}

async function restOf(
  lab: Lab,
  lotId: number,
  except: number[],
  transaction: Transaction,
): Promise<number[]> {
  const left = new Set(except);
  const rows = await lab.store.arrivals.cells.find(
    { lotId, inspected: false },
    { transaction, columns: ['cellId'], forUpdate: true },
  );
  return rows.map((row) => row.cellId).filter((id) => !left.has(id));
}

async function numbersOf(lab: Lab, ids: number[], transaction: Transaction): Promise<string[]> {
  const rows = await lab.store.cells.find({ id: ids }, { transaction, columns: ['number'] });
  return rows.map((row) => row.number);
}

/** Records how a serious finding was made good: how it was before, what was done. */
export const makeGood = procedure({
  role: 'technician',
  input: z.object({
    findingId: z.int(),
    before: z.string().trim().min(3, 'Before: expected how it was.').max(400),
    done: z.string().trim().min(3, 'After: expected what was done.').max(400),
  }),
  run: async ({ lab, actor, input, transaction, audit, changed }): Promise<void> => {
    const { finding, cell } = await openFinding(lab, input.findingId, transaction);
    const kind = findingKind(finding.code!);
    if (kind.severity === 'stop')
      throw new LabError(
        'notAllowed',
        `“${kind.words}” cannot be made good: the cell stays in quarantine and goes to a recycler.`,
      );
    await lab.store.arrivals.inspections.insert(
      {
        lotId: cell.lotId,
        cellId: cell.id,
        act: 'madeGood',
        code: null,
        findingId: finding.id,
        note: input.done,
        before: input.before,
        personId: actor.id,
        at: lab.now(),
      },
      transaction,
    );
    changed({ what: 'inspection', lotId: cell.lotId, cellIds: [cell.id] });
    await audit({
      act: 'made finding good',
      subjectType: 'cell',
      subjectId: cell.number,
      before: { code: finding.code, state: input.before },
      after: { done: input.done },
    });
  },
});

/** Takes a finding back that was a mistake. A stop needs a lead, since it opens a quarantine. */
export const withdrawFinding = procedure({
  role: 'technician',
  input: z.object({
    findingId: z.int(),
    reason: z.string().trim().min(3, 'Expected a reason.').max(400),
  }),
  run: async ({ lab, actor, input, transaction, audit, changed }): Promise<void> => {
    const { finding, cell } = await openFinding(lab, input.findingId, transaction);
    const kind = findingKind(finding.code!);
    if (kind.forGood)
      throw new LabError(
        'notAllowed',
        `“${kind.words}” is never taken back: the cell stays in quarantine and goes to a recycler.`,
      );
    if (kind.severity === 'stop' && actor.role === 'technician')
      throw new LabError(
        'notAllowed',
        'Taking a cell out of quarantine needs the role lead; it stays there.',
      );
    await lab.store.arrivals.inspections.insert(
      {
        lotId: cell.lotId,
        cellId: cell.id,
        act: 'withdrawn',
        code: null,
        findingId: finding.id,
        note: input.reason,
        before: null,
        personId: actor.id,
        at: lab.now(),
      },
      transaction,
    );
    changed({ what: 'inspection', lotId: cell.lotId, cellIds: [cell.id] });
    await audit({
      act: 'took finding back',
      subjectType: 'cell',
      subjectId: cell.number,
      before: { code: finding.code },
      after: { reason: input.reason },
    });
  },
});

async function openFinding(lab: Lab, findingId: number, transaction: Transaction) {
  const { inspections } = lab.store.arrivals;
  const finding = found(
    await inspections.one({ id: findingId, act: 'finding' }, { transaction }),
    'That finding',
  );
  await openLot(lab, finding.lotId, transaction);
  const cell = found(
    await lab.store.cells.one({ id: finding.cellId }, { transaction, forUpdate: true }),
    'Its cell',
  );
  if (await inspections.one({ findingId }, { transaction }))
    throw new LabError(
      'conflict',
      'This finding was settled by someone else already. Reload to see how.',
    );
  return { finding, cell };
}

export interface FindingView {
  id: number;
  cellId: number;
  code: string;
  words: string;
  severity: 'stop' | 'serious' | 'note';
  state: 'open' | 'madeGood' | 'withdrawn';
  note: string | null;
  person: string;
  at: Date;
  settled: { by: string; at: Date; note: string | null; before: string | null } | null;
}

/** Findings of a lot, or of some of its cells, newest first. */
export async function findingViews(
  lab: Lab,
  where: { lotId: number; cellId?: number },
): Promise<FindingView[]> {
  const [entries, people] = await Promise.all([
    lab.store.arrivals.inspections.find(where, { order: [['id', 'ASC']] }),
    lab.store.people.find({}, { columns: ['id', 'name'] }),
  ]);
  const name = new Map(people.map((person) => [person.id, person.name]));
  return findingsOfEntries(entries)
    .map(({ id, code, severity, state, entry, settledBy }) => ({
      id,
      cellId: entry.cellId,
      code,
      words: findingKind(code).words,
      severity,
      state,
      note: entry.note,
      person: name.get(entry.personId) ?? '',
      at: entry.at,
      settled: settledBy
        ? {
            by: name.get(settledBy.personId) ?? '',
            at: settledBy.at,
            note: settledBy.note,
            before: settledBy.before,
          }
        : null,
    }))
    .reverse();
}

export const lotFindings = question({
  role: 'technician',
  input: z.object({ lotId: z.int() }),
  run: (lab, { lotId }) => findingViews(lab, { lotId }),
});
