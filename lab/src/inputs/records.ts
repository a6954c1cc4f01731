import { CHEMISTRIES } from '@dusk-tally/core/chemistry';
import { centsOf } from '@dusk-tally/core/money';
import { z } from 'zod';
import { currencyFields, currencyOrHouse, isDated, rateInput, UNDATED } from './currency';
import { dayInput } from './day';
import { reasonInput } from './people';

const maybeCount = z
  .int('Expected a whole number.')
  .min(0, 'Expected 0 or more.')
  .max(1_000_000, 'Expected at most 1 000 000.')
  .nullish()
  .transform((value) => value ?? null);
const maybeNumber = (low: number, high: number) =>
  z
    .number('Expected a number.')
    .min(low, `Expected ${low} to ${high}.`)
    .max(high, `Expected ${low} to ${high}.`)
    .nullish()
    .transform((value) => value ?? null);
const money = z
  .number('Expected an amount.')
  .min(0, 'Expected an amount of 0 or more.')
  .max(40_000_000, 'Expected at most 40 000 000.')
  .nullish()
  .transform((value) => (value === null || value === undefined ? null : centsOf(value.toFixed(2))));

/** A lot from before the app, as its papers tell it. */
export const earlierLotInput = z
  .object({
    supplierId: z.int(),
    title: z.string().trim().min(1, 'Expected a short name.').max(120),
    model: z.string().trim().min(1, 'Expected the model.').max(120),
    chemistry: z
      .enum(CHEMISTRIES)
      .nullish()
      .transform((value) => value ?? null),
    arrivedOn: dayInput,
    cells: z.int('Expected a whole number.').min(1, 'Expected 1 or more.').max(1_000_000),
    judged: z.int('Expected a whole number.').min(0, 'Expected 0 or more.'),
    met: z.int('Expected a whole number.').min(0, 'Expected 0 or more.'),
    /** Mean capacity over the claimed one, less 1, %. */
    marginPct: maybeNumber(-100, 100),
    dead: maybeCount,
    ageMonths: maybeNumber(0, 600),
    copies: maybeCount,
    daysToDeliver: maybeCount,
    claimedKwh: maybeNumber(0, 1_000_000),
    goodKwh: maybeNumber(0, 1_000_000),
    landed: money,
    ...currencyFields,
    disputeOutcome: z
      .string()
      .trim()
      .max(200)
      .nullish()
      .transform((text) => text || null),
  })
  .refine(isDated, UNDATED)
  .superRefine(({ cells, judged, met, dead, copies, claimedKwh, goodKwh }, context) => {
    const refuse = (path: string, message: string) =>
      context.addIssue({ code: 'custom', path: [path], message });
    if (judged > cells) refuse('judged', `Expected at most the ${cells} cells.`);
    for (const [path, count] of [
      ['dead', dead],
      ['copies', copies],
    ] as const)
      if (count !== null && count > cells) refuse(path, `Expected at most the ${cells} cells.`);
    if (met > judged) refuse('met', `Expected at most the ${judged} that were judged.`);
    if (claimedKwh !== null && goodKwh !== null && goodKwh > 1.5 * claimedKwh)
      refuse('goodKwh', 'Expected no more than half as much again as was claimed.');
  });

/** A lot or a note that was wrong, taken back; it stays with its reason. */
export const takeBackInput = z.object({ id: z.int(), reason: reasonInput });

/** What is said of a supplier. */
export const supplierNoteInput = z.object({
  supplierId: z.int(),
  isHearsay: z.boolean(),
  text: z.string().trim().min(3, 'Expected a few words.').max(4000),
  source: z
    .string()
    .trim()
    .max(200)
    .nullish()
    .transform((text) => text || null),
});

/** What a kWh in good cells is to cost. */
export const targetInput = z.object({ perKwh: money, reason: reasonInput });

/** An offer that is looked at before anything is bought. */
export const offerInput = z.object({
  text: z.string().max(60_000).default(''),
  /** The text the fields were read from last. */
  readFrom: z.string().max(60_000).default(''),
  supplierId: z
    .int()
    .nullish()
    .transform((value) => value ?? null),
  modelId: z
    .int()
    .nullish()
    .transform((value) => value ?? null),
  chemistry: z.enum(CHEMISTRIES, 'Expected the chemistry.'),
  sizeCode: z
    .string()
    .trim()
    .max(12)
    .nullish()
    .transform((text) => text || null),
  claimedAh: z
    .number('Expected the claimed capacity.')
    .min(0.001, 'Expected 0.001 to 100 000 Ah.')
    .max(100_000, 'Expected 0.001 to 100 000 Ah.'),
  massG: maybeNumber(0.1, 1_000_000),
  cells: z.int('Expected a whole number of cells.').min(1, 'Expected 1 or more.').max(1_000_000),
  price: money,
  /** Freight, duty, fees and own time, as far as they are known. */
  beside: money,
  currency: currencyOrHouse,
  /** What one of it is worth in the house’s. */
  rate: rateInput,
});
