import { asMark } from '@dusk-tally/core/arrivals';
import type { LotRow } from '@dusk-tally/store';
import { z } from 'zod';
import { type Act, found, LabError, procedure } from '../shared';
import { bumpLot, claimInput, numberCells, openLot, takeBatch } from '../lots';

const [FIRST_DAY, LAST_DAY] = ['1990-01-01', '2099-12-31'];
const day = z.iso
  .date('Expected a day, such as 2026-11-27.')
  .refine((value) => value >= FIRST_DAY && value <= LAST_DAY, {
    message: 'Expected a day from 1990 to 2099.',
  })
  .nullish()
  .transform((value) => value ?? null);

/** Most cells one lot may have. */
export const MOST_CELLS = 20_000;

const money = z
  .number()
  .min(0, 'Expected an amount of 0 or more.')
  .max(1e9)
  .nullish()
  .transform((amount) => (amount === null || amount === undefined ? null : amount.toFixed(2)));

const order = {
  title: z.string().trim().min(1, 'Expected a short name for the lot.').max(160),
  supplierId: z.int(),
  orderedOn: day,
  arrivedOn: day,
  orderedQuantity: z
    .int('Expected a whole number.')
    .min(0)
    .max(MOST_CELLS)
    .nullish()
    .transform((count) => count ?? null),
  price: money,
  discount: money,
  freight: money,
  duty: money,
  fees: money,
};

export const inOrder = (lot: { orderedOn: string | null; arrivedOn: string | null }) =>
  !lot.orderedOn || !lot.arrivedOn || lot.orderedOn <= lot.arrivedOn;

export const OUT_OF_ORDER = {
  message: 'Expected an arrival on or after the order.',
  path: ['arrivedOn'],
};

export const inPrice = (lot: { price: string | null; discount: string | null }) =>
  lot.discount === null || lot.price === null || Number(lot.discount) <= Number(lot.price);

export const OVER_PRICE = {
  message: 'Expected a discount of at most the price.',
  path: ['discount'],
};

export const lotInput = z
  .object({
    ...order,
    /** Made by the browser, so that a repeated send takes in nothing twice. */
    clientKey: z.uuid().optional(),
    modelId: z.int(),
    takenAs: z.enum(['cells', 'packs']).default('cells'),
    /** Cells that are here; 0 while the box is on its way, or when packs are to be opened. */
    quantity: z
      .int('Expected a whole number of cells.')
      .min(0, 'Expected 0 cells or more.')
      .max(MOST_CELLS, `Expected at most ${MOST_CELLS} cells.`),
    claim: claimInput.default([]),
    /** Marks the cells came with, in order; missing ones stay empty. */
    labels: z.array(z.string().trim().max(60)).max(MOST_CELLS).default([]),
    /** Box each cell came in, in order. */
    boxes: z.array(z.string().trim().max(40)).max(MOST_CELLS).default([]),
  })
  .refine(inOrder, OUT_OF_ORDER)
  .refine(inPrice, OVER_PRICE);

/** Stores a lot whose input is checked: its claim, and one numbered cell for each that was counted. */
export async function storeLot({
  lab,
  input,
  transaction,
  audit,
  changed,
}: Pick<
  Act<z.output<typeof lotInput>, undefined>,
  'lab' | 'input' | 'transaction' | 'audit' | 'changed'
>): Promise<LotRow> {
  const { store } = lab;
  found(await store.suppliers.one({ id: input.supplierId }, { transaction }), 'That supplier');
  found(await store.cellModels.one({ id: input.modelId }, { transaction }), 'That cell model');
  const settings = found(
    await store.settings.one({ id: 1 }, { transaction }),
    'The lab’s settings',
  );
  const lotNumber = await store.takeNumbers('lot', 1, transaction);
  const { claim, labels, boxes, clientKey, ...rest } = input;
  if (clientKey && !(await takeBatch(lab, clientKey, transaction)))
    throw new LabError(
      'duplicate',
      'This lot was taken in a moment ago; it stands at the top of Arrivals.',
      { link: '/arrivals' },
    );
  const lot = await store.lots.insert(
    {
      ...rest,
      orderedQuantity: input.orderedQuantity ?? (input.quantity || null),
      code: `L-${String(lotNumber).padStart(3, '0')}`,
      currency: settings.currency,
      cancelledAt: null,
      cancelReason: null,
      createdAt: lab.now(),
      clientKey: clientKey ?? null,
    },
    transaction,
  );
  await store.claimItems.insertMany(
    claim.map((item) => ({ ...item, lotId: lot.id })),
    transaction,
  );
  const cells = await numberCells(
    lab,
    lot.id,
    Array.from({ length: input.quantity }, (_, i) => ({
      label: labels[i] ? asMark(labels[i]) : null,
      box: boxes[i] || null,
    })),
    transaction,
  );
  changed({ what: 'cells', lotId: lot.id });
  await audit({
    act: 'added lot',
    subjectType: 'lot',
    subjectId: lot.code,
    after: { ...rest, claim, cells: cells ? `${cells.first} to ${cells.last}` : 'none yet' },
  });
  return lot;
}

/** Takes in a lot of a known supplier and model. */
export const addLot = procedure({
  role: 'lead',
  input: lotInput,
  run: (act): Promise<LotRow> => storeLot(act),
});

/** Changes what the order says: dates, quantity ordered, what was paid. */
export const changeOrder = procedure({
  role: 'lead',
  input: z
    .object({ lotId: z.int(), version: z.int(), ...order })
    .omit({ supplierId: true })
    .refine(inOrder, OUT_OF_ORDER)
    .refine(inPrice, OVER_PRICE),
  run: async ({ lab, input, transaction, audit, changed }): Promise<void> => {
    const { lotId, version, ...patch } = input;
    const before = found(await lab.store.lots.one({ id: lotId }, { transaction }), 'That lot');
    await bumpLot(lab, lotId, version, transaction, patch);
    if (patch.arrivedOn !== before.arrivedOn) changed({ what: 'arrivalDay', lotId });
    await audit({
      act: 'changed order',
      subjectType: 'lot',
      subjectId: before.code,
      before: Object.fromEntries(
        Object.keys(patch).map((name) => [name, before[name as keyof LotRow]]),
      ),
      after: patch,
    });
  },
});

/** Calls a lot off. Its records stay; nothing more can be entered until it is taken up again. */
export const cancelLot = procedure({
  role: 'lead',
  input: z.object({
    lotId: z.int(),
    version: z.int(),
    reason: z.string().trim().min(3, 'Expected a reason.').max(400),
  }),
  run: async ({ lab, input, transaction, audit }): Promise<void> => {
    const lot = await openLot(lab, input.lotId, transaction);
    await bumpLot(lab, input.lotId, input.version, transaction, {
      cancelledAt: lab.now(),
      cancelReason: input.reason,
    });
    await audit({
      act: 'called lot off',
      subjectType: 'lot',
      subjectId: lot.code,
      before: { cancelled: false },
      after: { cancelled: true, reason: input.reason },
    });
  },
});

/** Takes a lot up again that was called off. */
export const resumeLot = procedure({
  role: 'lead',
  input: z.object({ lotId: z.int(), version: z.int() }),
  run: async ({ lab, input, transaction, audit }): Promise<void> => {
    const lot = found(await lab.store.lots.one({ id: input.lotId }, { transaction }), 'That lot');
    await bumpLot(lab, input.lotId, input.version, transaction, {
      cancelledAt: null,
      cancelReason: null,
    });
    await audit({
      act: 'took lot up again',
      subjectType: 'lot',
      subjectId: lot.code,
      before: { cancelled: true, reason: lot.cancelReason },
      after: { cancelled: false },
    });
  },
});
