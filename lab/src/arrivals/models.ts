import { CHEMISTRIES } from '@dusk-tally/core/chemistry';
import type { CellModelRow } from '@dusk-tally/store';
import { z } from 'zod';
import { isDuplicate, LabError, procedure, question } from '../shared';

const positive = z.number().positive('Expected a number above 0.').finite();
const optionalPositive = positive.nullish().transform((value) => value ?? null);

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
});

/** Adds a cell model with what its data sheet says. */
export const addModel = procedure({
  role: 'lead',
  input: modelInput,
  run: async ({ lab, input, transaction, audit }): Promise<CellModelRow> => {
    try {
      const row = await lab.store.cellModels.insert(
        { ...input, createdAt: lab.now() },
        transaction,
      );
      await audit({
        act: 'added cell model',
        subjectType: 'cell model',
        subjectId: row.id,
        after: input,
      });
      return row;
    } catch (error) {
      if (isDuplicate(error))
        throw new LabError('duplicate', `A cell model named ${input.name} is here already.`, {
          field: 'name',
        });
      throw error;
    }
  },
});

export const listModels = question({
  role: 'technician',
  input: z.object({}),
  run: (lab) => lab.store.cellModels.find({}, { order: [['name', 'ASC']] }),
});
