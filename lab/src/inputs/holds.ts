import { z } from 'zod';
import { reasonInput } from './people';

/** Limits beyond which a result is held (handbook, chapter 3); shares as numbers: 0.02 is 2 %. */
export const holdLimitsFields = z.object({
  understated: z.number().min(1.02, 'Expected 102 to 300 %.').max(3, 'Expected 102 to 300 %.'),
  voltageV: z.number().min(0.005, 'Expected 5 to 1000 mV.').max(1, 'Expected 5 to 1000 mV.'),
  countsApart: z.number().min(0.001, 'Expected 0.1 to 50 %.').max(0.5, 'Expected 0.1 to 50 %.'),
  outOfNothing: z.number().min(1, 'Expected 100 to 150 %.').max(1.5, 'Expected 100 to 150 %.'),
  disagrees: z.number().min(0.005, 'Expected 0.5 to 50 %.').max(0.5, 'Expected 0.5 to 50 %.'),
  disagreesEn: z.number().min(1).max(10),
  clocksApart: z.number().min(0.0005, 'Expected 0.05 to 50 %.').max(0.5, 'Expected 0.05 to 50 %.'),
});

/** A change of them. */
export const holdLimitsInput = holdLimitsFields.extend({
  /** Version of the lab’s settings it was made on. */
  version: z.int(),
  reason: reasonInput,
});
