import { z } from 'zod';
import { MOST_CELLS } from './lots';

/** How many cells or packs are here. */
export const countInput = z.object({
  lotId: z.int(),
  count: z
    .int('Expected a whole number of 0 or more.')
    .min(0, 'Expected a whole number of 0 or more.')
    .max(MOST_CELLS, `Expected at most ${MOST_CELLS} cells; split a larger delivery into lots.`),
});

const mass = z
  .number('Expected a mass in g.')
  .min(0, 'Expected 0 g or more.')
  .max(1e7, 'Expected at most 10 000 kg.')
  .nullable();

/** The box on a scale, g; null for what was not weighed. */
export const boxWeights = z.object({
  grossG: mass,
  tareG: mass,
  netG: mass,
  scaleToleranceG: z
    .number('Expected a mass in g.')
    .min(0, 'Expected 0 g or more.')
    .max(1e5, 'Expected at most 100 kg.')
    .nullable(),
});
