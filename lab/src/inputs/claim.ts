import { CLAIM_ITEMS, CLAIM_KINDS } from '@dusk-tally/core/arrivals';
import { CLAMPINGS } from '@dusk-tally/core/chemistry';
import { z } from 'zod';
import { dayInput } from './day';

const positive = z.number().positive('Expected a number above 0.').finite();

/** Conditions a claim item is made under (handbook, chapter 1, "The claim"). */
export const claimConditions = z.object({
  rateIt: positive.max(50).optional(),
  cutoffV: positive.max(6).optional(),
  chargeV: positive.max(6).optional(),
  temperatureC: z.number().min(-20).max(60).optional(),
  restMinutes: z.number().min(0).max(10080).optional(),
  taperIt: positive.max(5).optional(),
  statedAs: z.enum(['minimum', 'typical', 'maximum', 'range']).optional(),
  low: positive.optional(),
  stepIt: z
    .string()
    .trim()
    .regex(/^\d+([.,]\d+)?\s*\/\s*\d+([.,]\d+)?$/, 'Expected two currents, such as 0.2 / 1.')
    .optional(),
  stateOfChargePct: z.number().min(0).max(100).optional(),
  pulseS: positive.optional(),
  clamping: z.enum(CLAMPINGS).optional(),
  tolerancePct: z.number().min(0).max(100).optional(),
  paysReturnFreight: z.enum(['buyer', 'supplier']).optional(),
});

/** Most a claim can say of anything sold as a cell, by unit; more is a slip. */
const MOST: Readonly<Record<string, number>> = {
  Ah: 1e5,
  Wh: 1e6,
  mΩ: 1e6,
  A: 1e5,
  g: 1e6,
  cells: 1e6,
  days: 3650,
};

/** One claim item: a number in the kind's unit, or words. */
export const claimItemInput = z
  .object({
    kind: z.enum(CLAIM_KINDS),
    value: positive.nullish().transform((value) => value ?? null),
    text: z
      .string()
      .trim()
      .max(400)
      .nullish()
      .transform((text) => text || null),
    conditions: claimConditions.default({}),
  })
  .superRefine((item, context) => {
    const { words, input } = CLAIM_ITEMS[item.kind];
    const problem = (message: string) =>
      context.addIssue({ code: 'custom', message: `${words}: ${message}` });
    const conditionsOnly = item.kind === 'capacity' && Object.keys(item.conditions).length > 0;
    if (input === 'number' && item.value === null && !conditionsOnly) problem('expected a number.');
    const most = MOST[CLAIM_ITEMS[item.kind].unit ?? ''];
    if (most !== undefined && item.value !== null && item.value > most)
      problem(`expected at most ${most} ${CLAIM_ITEMS[item.kind].unit}; found ${item.value}.`);
    if (input !== 'number' && item.text === null) problem('expected words.');
    if (input === 'date' && item.text && !dayInput.safeParse(item.text).success)
      problem(`expected a date such as 2026-03-01; found “${item.text}”.`);
    const { statedAs, low } = item.conditions;
    if (statedAs === 'range' && !(low && item.value && low <= item.value))
      problem('a range needs its lower end, at or below the upper one.');
  })
  .transform((item) => ({ ...item, unit: CLAIM_ITEMS[item.kind].unit }));

/** All items of a claim, one of each kind. */
export const claimInput = z
  .array(claimItemInput)
  .max(CLAIM_KINDS.length)
  .refine((items) => new Set(items.map((item) => item.kind)).size === items.length, {
    message: 'Expected each kind of item once.',
  });

/** A lot’s claim, as it is to be. */
export const claimChange = z.object({ lotId: z.int(), version: z.int(), claim: claimInput });
