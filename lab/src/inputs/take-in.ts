import { z } from 'zod';
import { claimInput } from './claim';
import { isDated, UNDATED } from './currency';
import { inOrder, inPrice, MOST_CELLS, orderFields, OUT_OF_ORDER, OVER_PRICE } from './lots';
import { modelInput } from './models';

/** A lot as it is taken in. */
export const lotInput = z
  .object({
    ...orderFields,
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
  .refine(inPrice, OVER_PRICE)
  .refine(isDated, UNDATED);

/** A lot with its supplier and its model where they are new. */
const { supplierId: _supplier, modelId: _model, ...ofLot } = lotInput.shape;

export const takeInInput = z
  .object({
    ...ofLot,
    /** Made by the browser; the same try again takes in nothing twice. */
    clientKey: z.uuid(),
    supplierName: z.string().trim().min(1, 'Expected a name.').max(120),
    /** One that is described already, or a new one. */
    model: z.union([z.object({ id: z.int() }), modelInput]),
    /** Text of the offer; empty for none. */
    offer: z.string().max(60_000).default(''),
  })
  .refine(inOrder, OUT_OF_ORDER)
  .refine(inPrice, OVER_PRICE)
  .refine(isDated, UNDATED);
