import { findingKind } from '@dusk-tally/core/arrivals';
import type { Transaction } from '@dusk-tally/store';
import { z } from 'zod';
import { makeGoodInput, withdrawInput } from '../inputs';
import { found, type Lab, LabError, procedure } from '../shared';
import { openLot, takeBatch } from '../lots';
import { findingViews } from './finding-views';

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
        z.object({
          act: z.literal('clear'),
          cellIds,
          /**
           * Open findings who marks saw, by cell; a cell with another one is not cleared. Without it
           * nothing is asked.
           */
          seen: z.record(z.string(), z.array(z.string().max(30)).max(40)).optional(),
        }),
        /** Everything nobody has looked at yet; the cells named are left out. */
        z.object({ act: z.literal('clearRest'), except: z.array(z.int()).max(20_000) }),
        z.object({ act: z.literal('finding'), cellIds, code: z.string().max(30), note }),
      ]),
    )
    .min(1)
    .max(500),
});

/** What became of a batch of marks. */
export interface InspectionMarked {
  /** How many cells were marked. */
  cells: number;
  /** What others found meanwhile on cells that were to be cleared: they are not. */
  found: { cellId: number; number: string; words: string; severity: string; person: string }[];
}

/** Open findings on cells that who clears them did not see. */
async function unseenFindings(
  lab: Lab,
  lotId: number,
  ids: readonly number[],
  seen: Readonly<Record<string, readonly string[]>>,
): Promise<InspectionMarked['found']> {
  const wanted = new Set(ids);
  const unseen = (await findingViews(lab, { lotId })).filter(
    ({ cellId, code, state }) =>
      wanted.has(cellId) && state === 'open' && !seen[cellId]?.includes(code),
  );
  const numbers = new Map(
    (
      await lab.store.cells.find(
        { id: unseen.map(({ cellId }) => cellId) },
        { columns: ['id', 'number'] },
      )
    ).map((cell) => [cell.id, cell.number]),
  );
  return unseen.map(({ cellId, words, severity, person }) => ({
    cellId,
    number: numbers.get(cellId) ?? '',
    words,
    severity,
    person,
  }));
}

/**
 * Keeps what an inspection saw, for one or many cells. Sending a batch again does nothing. A cell
 * somebody else found something on meanwhile is not cleared.
 */
export const recordInspection = procedure({
  role: 'technician',
  input: inspectionInput,
  run: async ({ lab, actor, input, transaction, audit, changed }): Promise<InspectionMarked> => {
    const { arrivals } = lab.store;
    const lot = await openLot(lab, input.lotId, transaction, true);
    if (!(await takeBatch(lab, input.clientKey, transaction))) return { cells: 0, found: [] };
    const found: InspectionMarked['found'] = [];
    const touched = new Set<number>();
    const at = lab.now();
    for (const mark of input.marks) {
      let ids =
        mark.act === 'clearRest'
          ? await restOf(lab, lot.id, mark.except, transaction)
          : await ofLot(lab, lot.id, mark.cellIds, transaction);
      if (mark.act === 'clear' && mark.seen) {
        const unseen = await unseenFindings(lab, lot.id, ids, mark.seen);
        found.push(...unseen);
        const speaks = new Set(unseen.map(({ cellId }) => cellId));
        ids = ids.filter((id) => !speaks.has(id));
      }
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
    return { cells: touched.size, found };
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
  input: makeGoodInput,
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
  input: withdrawInput,
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
