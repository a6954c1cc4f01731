import { CLAMPINGS } from '@dusk-tally/core/chemistry';
import { MEASURED, type Recipe, RECIPE_PURPOSES, type RecipeStep } from '@dusk-tally/core/bench';
import { z } from 'zod';

const above0 = z.number('Expected a number.').positive('Expected a number above 0.').finite();
const orNone = above0.nullable();

/** A current as a recipe writes it. */
export const recipeCurrent = z.discriminatedUnion('in', [
  z.object({ in: z.literal('A'), value: above0.max(2000) }),
  z.object({ in: z.literal('It'), value: above0.max(50) }),
  z.object({ in: z.literal('claimRate') }),
  z.object({ in: z.literal('claimMaximum') }),
]);

const load = z.discriminatedUnion('by', [
  z.object({ by: z.literal('current'), current: recipeCurrent }),
  z.object({ by: z.literal('power'), watts: above0.max(20_000) }),
  z.object({ by: z.literal('resistor'), ohm: above0.max(10_000) }),
]);

const plainStep = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('charge'),
    current: recipeCurrent,
    limitV: orNone,
    taperIt: above0.max(5),
    maxHours: orNone,
    limitAh: orNone,
  }),
  z.object({ kind: z.literal('rest'), minutes: z.number().min(0).max(129_600) }),
  z.object({
    kind: z.literal('discharge'),
    load,
    cutoffV: orNone,
    maxHours: orNone,
    limitAh: orNone,
  }),
  z.object({
    kind: z.literal('pulse'),
    first: recipeCurrent,
    firstS: above0.max(3600),
    second: recipeCurrent,
    secondS: above0.max(3600),
  }),
  z.object({ kind: z.literal('measure'), what: z.enum(MEASURED) }),
  z.object({ kind: z.literal('toStorage'), current: recipeCurrent }),
]);

/** A step, or a block of plain steps that is repeated. */
export const recipeStep: z.ZodType<RecipeStep> = z.union([
  plainStep,
  z.object({
    kind: z.literal('repeat'),
    times: z.int().min(1).max(50),
    steps: z.array(plainStep).min(1).max(40),
  }),
]);

/** A recipe as a person writes it. */
export const recipeInput = z.object({
  name: z.string().trim().min(1, 'Expected a name.').max(80),
  purpose: z.enum(RECIPE_PURPOSES),
  attendedOnly: z.boolean(),
  thenRest: z
    .string()
    .trim()
    .max(60)
    .nullish()
    .transform((name) => name || null),
  clamping: z
    .enum(CLAMPINGS)
    .nullish()
    .or(z.literal(''))
    .transform((held) => held || null),
  steps: z.array(recipeStep).min(1, 'Expected at least one step.').max(60),
}) satisfies z.ZodType<Recipe>;

/** A recipe as it is kept: a new one, or a new version of one. */
export const recipeChange = recipeInput.extend({
  /** Of an existing recipe, with the row’s version it was read at. */
  id: z.int().nullish(),
  rowVersion: z.int().nullish(),
  note: z.string().trim().max(400).nullish(),
});
