import { formatCellNumber } from '@dusk-tally/core/arrivals';
import type { CellRow, ClaimItemRow, LotRow, Transaction } from '@dusk-tally/store';
import { z } from 'zod';
import { recomputeRuns } from '../evidence/recompute';
import { found, type Lab, LabError, procedure } from '../shared';
import { refreshStandings } from '../verdicts/standings';
import { claimInput, effectiveClaim } from './claims';

const day = z.iso
  .date('Expected a date.')
  .nullish()
  .transform((value) => value ?? null);
/** Most cells one lot may have. */
export const MOST_CELLS = 20_000;

export const lotInput = z
  .object({
    title: z.string().trim().min(1, 'Expected a short name for the lot.').max(160),
    supplierId: z.int(),
    modelId: z.int(),
    orderedOn: day,
    arrivedOn: day,
    quantity: z
      .int('Expected a whole number of cells.')
      .min(1, 'Expected at least one cell.')
      .max(MOST_CELLS, `Expected at most ${MOST_CELLS} cells.`),
    price: z.number().min(0).max(1e9).nullish(),
    claim: claimInput.default([]),
    /** Marks the cells came with, in order; missing ones stay empty. */
    labels: z.array(z.string().trim().max(60)).max(MOST_CELLS).default([]),
  })
  .refine((lot) => !lot.orderedOn || !lot.arrivedOn || lot.orderedOn <= lot.arrivedOn, {
    message: 'Expected an arrival on or after the order.',
    path: ['arrivedOn'],
  });

/** Takes in a lot: its claim, and one numbered cell for each that was counted. */
export const addLot = procedure({
  role: 'lead',
  input: lotInput,
  run: async ({ lab, input, transaction, audit }): Promise<LotRow> => {
    const { store } = lab;
    found(await store.suppliers.one({ id: input.supplierId }, { transaction }), 'That supplier');
    found(await store.cellModels.one({ id: input.modelId }, { transaction }), 'That cell model');
    const settings = found(
      await store.settings.one({ id: 1 }, { transaction }),
      'The lab’s settings',
    );
    const lotNumber = await store.takeNumbers('lot', 1, transaction);
    const lot = await store.lots.insert(
      {
        code: `L-${String(lotNumber).padStart(3, '0')}`,
        title: input.title,
        supplierId: input.supplierId,
        modelId: input.modelId,
        orderedOn: input.orderedOn,
        arrivedOn: input.arrivedOn,
        quantity: input.quantity,
        price: input.price === null || input.price === undefined ? null : input.price.toFixed(2),
        currency: settings.currency,
        createdAt: lab.now(),
      },
      transaction,
    );
    await store.claimItems.insertMany(
      input.claim.map((item) => ({ ...item, lotId: lot.id })),
      transaction,
    );
    const first = await store.takeNumbers(
      `cell ${settings.cellPrefix}`,
      input.quantity,
      transaction,
    );
    const cells = Array.from({ length: input.quantity }, (_, i) => ({
      lotId: lot.id,
      position: i + 1,
      number: formatCellNumber(settings.cellPrefix, first + i),
      label: input.labels[i] || null,
    }));
    await store.cells.insertMany(cells, transaction);
    await refreshStandings(lab, lot.id, null, transaction);
    await audit({
      act: 'added lot',
      subjectType: 'lot',
      subjectId: lot.code,
      after: {
        ...input,
        labels: undefined,
        cells: `${cells[0]!.number} to ${cells[cells.length - 1]!.number}`,
      },
    });
    return lot;
  },
});

/** Replaces a lot's claim. Figures that depend on its cut-off are computed again from the stored traces. */
export const changeClaim = procedure({
  role: 'lead',
  input: z.object({ lotId: z.int(), version: z.int(), claim: claimInput }),
  run: async ({ lab, input, transaction, audit }): Promise<void> => {
    const { store } = lab;
    const lot = await claimLot(lab, input.lotId, input.version, transaction);
    const model = found(
      await store.cellModels.one({ id: lot.modelId }, { transaction }),
      'The cell model',
    );
    const before = await store.claimItems.find({ lotId: lot.id }, { transaction });
    await store.claimItems.remove({ lotId: lot.id }, transaction);
    await store.claimItems.insertMany(
      input.claim.map((item) => ({ ...item, lotId: lot.id })),
      transaction,
    );
    const was = effectiveClaim(before, model);
    const now = effectiveClaim(input.claim, model);
    if (was.cutoffV.value !== now.cutoffV.value) await recomputeRuns(lab, lot.id, now, transaction);
    await refreshStandings(lab, lot.id, null, transaction);
    await audit({
      act: 'changed claim',
      subjectType: 'lot',
      subjectId: lot.code,
      before: plain(before),
      after: input.claim,
    });
  },
});

const plain = (items: ClaimItemRow[]) =>
  items.map(({ kind, value, text, conditions }) => ({ kind, value, text, conditions }));

async function claimLot(
  lab: Lab,
  lotId: number,
  version: number,
  transaction: Transaction,
): Promise<LotRow> {
  const changed = await lab.store.lots.update(
    { version: version + 1 },
    { id: lotId, version },
    transaction,
  );
  const lot = found(await lab.store.lots.one({ id: lotId }, { transaction }), 'That lot');
  if (changed === 0) {
    throw new LabError(
      'conflict',
      'Someone else changed this lot while you were at it. Nothing was saved; here is what they made of it.',
      {
        current: plain(
          await lab.store.claimItems.find({ lotId }, { transaction, order: [['id', 'ASC']] }),
        ),
      },
    );
  }
  return lot;
}

/** Gives a cell the mark it carries. */
export const labelCell = procedure({
  role: 'technician',
  input: z.object({ cellId: z.int(), version: z.int(), label: z.string().trim().max(60) }),
  run: async ({ lab, input, transaction, audit }): Promise<CellRow> => {
    const cell = found(
      await lab.store.cells.one({ id: input.cellId }, { transaction }),
      'That cell',
    );
    const changed = await lab.store.cells.update(
      { label: input.label || null, version: input.version + 1 },
      { id: cell.id, version: input.version },
      transaction,
    );
    if (changed === 0)
      throw new LabError(
        'conflict',
        `Someone else changed ${cell.number} meanwhile; it now reads “${cell.label ?? ''}”.`,
        { current: cell },
      );
    await audit({
      act: 'labelled cell',
      subjectType: 'cell',
      subjectId: cell.number,
      before: { label: cell.label },
      after: { label: input.label },
    });
    return { ...cell, label: input.label || null, version: input.version + 1 };
  },
});
