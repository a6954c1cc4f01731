import {
  type CodeReading,
  type CodeSummary,
  normaliseCode,
  readCode,
  summariseCodes,
} from '@dusk-tally/core/arrivals';
import { z } from 'zod';
import type { CellRow, LotRow, Transaction } from '@dusk-tally/store';
import { type Actor, found, type Lab, LabError, procedure, question } from '../shared';
import { loadClaim, numberCells, openLot, takeBatch } from '../lots';
import { codeReaders } from './code-rules';
import { MOST_CELLS } from '../inputs';

export interface ScanResult {
  /** What became of it: given to a cell, known on a cell, given as a copy, or in need of an answer. */
  outcome: 'assigned' | 'again' | 'copied' | 'asks';
  cell: { id: number; number: string } | null;
  reading: CodeReading;
  sentence: string;
}

const SLIM = ['id', 'lotId', 'number', 'label'] as const;

/** The cell a new code goes to: the one that was named, the first without a code, or one more. */
async function targetCell(
  lab: Lab,
  lot: Pick<LotRow, 'id' | 'quantity'>,
  { cellId, mayAdd }: { cellId: number | null; mayAdd: boolean },
  transaction: Transaction,
): Promise<CellRow | null> {
  const { cells, lots } = lab.store;
  const slim = { transaction, columns: [...SLIM] };
  if (cellId !== null)
    return found(await cells.one({ lotId: lot.id, id: cellId }, slim), 'That cell of the lot');
  const free = await cells.one(
    { lotId: lot.id, label: null },
    { ...slim, order: [['position', 'ASC']] },
  );
  if (free || !mayAdd) return free;
  if (lot.quantity >= MOST_CELLS)
    throw new LabError('invalid', `Expected at most ${MOST_CELLS} cells in a lot.`);
  const added = await numberCells(lab, lot.id, [{}], transaction);
  await lots.update({ quantity: lot.quantity + 1 }, { id: lot.id }, transaction);
  return cells.one({ id: added!.ids[0]! }, slim);
}

/** The code of a scan. @throws LabError where it holds none, or too much. */
function codeIn(text: string): string {
  const code = normaliseCode(text);
  if (code === '') throw new LabError('invalid', 'Expected a code; the scan was empty.');
  if (code.length > 60)
    throw new LabError(
      'invalid',
      `Expected a code of at most 60 characters; the scan has ${code.length}. Two scans in one?`,
    );
  return code;
}

/** Marks all cells that carry one code. */
async function markCopied(
  lab: Lab,
  actor: Actor,
  code: string,
  cells: readonly Pick<CellRow, 'id' | 'number' | 'lotId'>[],
  transaction: Transaction,
): Promise<void> {
  const note = `${code} stands on ${cells.map((cell) => cell.number).join(' and ')}`;
  for (const cell of cells)
    await lab.store.arrivals.inspections.insert(
      {
        lotId: cell.lotId,
        cellId: cell.id,
        act: 'finding',
        code: 'copiedCode',
        findingId: null,
        note,
        before: null,
        personId: actor.id,
        at: lab.now(),
      },
      transaction,
    );
}

/**
 * Takes a scanned code: one a cell of the lot carries finds it; a new one goes to the named
 * cell, or to the first without a code. A code that stands on another cell already asks first:
 * the same cell again, or a copied label. The same scan sent twice is taken once.
 */
export const scanCode = procedure({
  role: 'technician',
  input: z.object({
    lotId: z.int(),
    clientKey: z.uuid(),
    text: z.string().max(200),
    /** The cell it belongs to; null for the first without a code. */
    cellId: z.int().nullable().default(null),
    /** Answer to the question about a code seen before. */
    copied: z.boolean().default(false),
    /** May add a cell to the lot when all carry codes. */
    mayAdd: z.boolean().default(false),
  }),
  run: async ({ lab, actor, input, transaction, audit, changed }): Promise<ScanResult> => {
    const { store } = lab;
    const code = codeIn(input.text);
    const lot = await openLot(lab, input.lotId, transaction, true);
    const reading = readCode(code, await codeReaders(lab, transaction), {
      arrivedOn: lot.arrivedOn,
    });
    const result = (
      outcome: ScanResult['outcome'],
      cell: ScanResult['cell'],
      sentence: string,
    ): ScanResult => ({ outcome, cell, reading, sentence });
    const carrying = await store.cells.find(
      { lotId: lot.id, label: code },
      { transaction, columns: [...SLIM] },
    );
    const byNumber = await store.cells.one(
      { lotId: lot.id, number: code },
      { transaction, columns: [...SLIM] },
    );
    if (byNumber) return result('again', byNumber, `${byNumber.number} found by its number.`);
    if (!(await takeBatch(lab, input.clientKey, transaction)))
      return result('again', carrying[0] ?? null, `${code} was taken already.`);
    if (carrying.length > 0 && !input.copied) {
      if (input.cellId === null || carrying.some((cell) => cell.id === input.cellId))
        return result(
          'again',
          carrying[0]!,
          `${carrying.map((cell) => cell.number).join(', ')} ${carrying.length > 1 ? 'carry' : 'carries'} this code already.`,
        );
      return result(
        'asks',
        carrying[0]!,
        `${carrying[0]!.number} carries this code already. The same cell again, or a copied label on another?`,
      );
    }
    const target = await targetCell(lab, lot, input, transaction);
    if (!target)
      return result(
        'asks',
        null,
        `All ${lot.quantity} cells of the lot carry a code. One more cell than was counted?`,
      );
    if (target.label && target.label !== code)
      throw new LabError(
        'conflict',
        `${target.number} carries ${target.label} already. Change it on its own page if that was wrong.`,
      );
    const outcome = carrying.length > 0 ? 'copied' : 'assigned';
    await store.cells.update({ label: code }, { id: target.id }, transaction);
    await store.arrivals.codeScans.insert(
      { lotId: lot.id, cellId: target.id, code, outcome, personId: actor.id, at: lab.now() },
      transaction,
    );
    if (outcome === 'copied')
      await markCopied(lab, actor, code, [target, ...carrying], transaction);
    changed({
      what: 'codes',
      lotId: lot.id,
      cellIds: [target.id, ...(outcome === 'copied' ? carrying.map((cell) => cell.id) : [])],
    });
    await audit({
      act: 'scanned code',
      subjectType: 'cell',
      subjectId: target.number,
      before: { label: target.label },
      after: { label: code, outcome },
    });
    return result(
      outcome,
      target,
      outcome === 'copied'
        ? `${target.number} carries a copy of the code of ${carrying[0]!.number}; both are marked.`
        : `${target.number} has its code.`,
    );
  },
});

export interface CodesView {
  summary: CodeSummary;
  cells: {
    id: number;
    number: string;
    code: string | null;
    producedOn: string | null;
    message: string | null;
    words: string | null;
  }[];
  arrivedOn: string | null;
}

/** What the codes of a lot tell, and each cell’s. */
export const codesOfLot = question({
  role: 'technician',
  input: z.object({ lotId: z.int() }),
  run: async (lab, { lotId }): Promise<CodesView> => {
    const { store } = lab;
    const [{ lot, model, claim }, cells, templates, elsewhere, makers] = await Promise.all([
      loadClaim(lab, lotId),
      store.cells.find(
        { lotId },
        { order: [['position', 'ASC']], columns: ['id', 'number', 'label'] },
      ),
      codeReaders(lab),
      store.arrivals.codesElsewhere(lotId),
      store.arrivals.makerCodes.find({}),
    ]);
    const readings = cells.map((cell) =>
      cell.label ? readCode(cell.label, templates, { arrivedOn: lot.arrivedOn }) : null,
    );
    const makerNames = new Map(makers.map((maker) => [maker.code, maker.name]));
    const summary = summariseCodes(
      cells.map((cell, i) => ({
        number: cell.number,
        code: cell.label ? normaliseCode(cell.label) : null,
        reading: readings[i]!,
      })),
      {
        arrivedOn: lot.arrivedOn,
        claimedNew: claim.claimedNew,
        producedAfter: claim.producedAfter,
        chemistry: model.chemistry,
        elsewhere: new Map(
          elsewhere.map((row) => [normaliseCode(row.code), `${row.number} of ${row.lot}`]),
        ),
        makerName: (code) => makerNames.get(code) ?? null,
      },
    );
    return {
      summary,
      arrivedOn: lot.arrivedOn,
      cells: cells.map((cell, i) => {
        const reading = readings[i];
        return {
          id: cell.id,
          number: cell.number,
          code: cell.label,
          producedOn: reading?.ok ? reading.producedFrom : null,
          message: reading && !reading.ok ? reading.message : null,
          words: reading?.ok
            ? [
                reading.scheme,
                reading.chemistryWords,
                reading.maker ? `maker ${makerNames.get(reading.maker) ?? reading.maker}` : null,
                reading.serial ? `serial ${reading.serial}` : null,
              ]
                .filter(Boolean)
                .join(', ')
            : null,
        };
      }),
    };
  },
});
