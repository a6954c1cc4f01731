import { CHEMISTRIES } from '@dusk-tally/core/chemistry';
import { type CellModelRow, TERMINAL_TYPES } from '@dusk-tally/store';
import { z } from 'zod';
import { found, isDuplicate, LabError, procedure, question } from '../shared';

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

/** What a data sheet says of the parts that never change a figure already computed. */
const SHEET_MASK = {
  massG: true,
  massTolerancePct: true,
  sizeTolerancePct: true,
  thicknessMm: true,
  terminalType: true,
  terminalTorqueNm: true,
  acResistanceMohm: true,
  dcResistanceMohm: true,
  maxChargeA: true,
  maxDischargeA: true,
  restMinutes: true,
  taperIt: true,
} as const;

/** Fills in what a data sheet says; rated values that figures hang on are not changed here. */
export const completeModel = procedure({
  role: 'lead',
  input: z.object({
    id: z.int(),
    version: z.int(),
    sheet: modelInput.pick(SHEET_MASK).partial(),
  }),
  run: async ({ lab, input, transaction, audit, changed }): Promise<void> => {
    const { store } = lab;
    const { id, version } = input;
    const before = found(await store.cellModels.one({ id }, { transaction }), 'That cell model');
    const sheet = Object.fromEntries(
      Object.keys(SHEET_MASK)
        .filter((name) => name in input.sheet)
        .map((name) => [name, (input.sheet as Record<string, unknown>)[name]]),
    ) as Partial<CellModelRow>;
    const updated = await store.cellModels.update(
      { ...sheet, version: version + 1 },
      { id, version },
      transaction,
    );
    if (updated === 0)
      throw new LabError(
        'conflict',
        'Someone else changed this model meanwhile. Nothing was saved; reload to see theirs.',
      );
    changed({ what: 'cellModel', modelId: id });
    await audit({
      act: 'completed data sheet',
      subjectType: 'cell model',
      subjectId: id,
      before: Object.fromEntries(
        Object.keys(sheet).map((name) => [name, before[name as keyof CellModelRow]]),
      ),
      after: sheet,
    });
  },
});
