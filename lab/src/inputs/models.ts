import { TERMINAL_TYPES } from '@dusk-tally/core/arrivals';
import { CHEMISTRIES } from '@dusk-tally/core/chemistry';
import { z } from 'zod';
import { reasonInput } from './people';

const positive = z.number().positive('Expected a number above 0.').finite();
const optionalPositive = positive.nullish().transform((value) => value ?? null);

/** A cell model with what its data sheet says. */
export const modelInput = z.object({
  name: z.string().trim().min(1, 'Expected a name for the model.').max(120),
  chemistry: z.enum(CHEMISTRIES),
  format: z.enum(['cylinder', 'prism', 'pouch']),
  diameterMm: optionalPositive,
  widthMm: optionalPositive,
  thicknessMm: optionalPositive,
  heightMm: optionalPositive,
  massG: optionalPositive,
  ratedAh: optionalPositive,
  rateIt: optionalPositive,
  cutoffV: optionalPositive,
  chargeV: optionalPositive,
  temperatureC: z
    .number()
    .min(-20)
    .max(60)
    .nullish()
    .transform((value) => value ?? null),
  acResistanceMohm: optionalPositive,
  maxChargeA: optionalPositive,
  maxDischargeA: optionalPositive,
  dcResistanceMohm: optionalPositive,
  taperIt: optionalPositive,
  restMinutes: optionalPositive,
  massTolerancePct: optionalPositive,
  sizeTolerancePct: optionalPositive,
  terminalType: z
    .enum(TERMINAL_TYPES)
    .nullish()
    .transform((value) => value ?? null),
  terminalTorqueNm: optionalPositive,
  clampForceN: optionalPositive,
});

/** All of a model that can be mended; what it is, chemistry and format, is another model. */
const sheetInput = modelInput.omit({ chemistry: true, format: true }).partial();

/** What a data sheet says, or what a model is called, filled in or mended. */
export const modelChange = z.object({
  id: z.int(),
  version: z.int(),
  sheet: sheetInput,
  reason: reasonInput,
});
