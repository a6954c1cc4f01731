import { type BoxJudgement, weighBox } from '@dusk-tally/core/arrivals';
import { z } from 'zod';
import { boxWeights } from '../inputs';
import { type Lab, LabError, procedure, question } from '../shared';
import { loadClaim, openLot, takeBatch } from '../lots';

/** Steps of receiving, in the order of the work. */
export const ARRIVAL_STEPS = [
  'box',
  'packs',
  'codes',
  'inspection',
  'readings',
  'triage',
  'sampling',
] as const;
export type ArrivalStep = (typeof ARRIVAL_STEPS)[number];

const FIELDS = {
  ...boxWeights.shape,
  /** Parts that should come along: what, how many are claimed, how many came. */
  parts: z
    .array(
      z.object({
        name: z.string().trim().min(1, 'Expected what the part is.').max(80),
        expected: z.int().min(0).max(100_000),
        found: z.int().min(0).max(100_000).nullable(),
      }),
    )
    .max(40),
  packsCounted: z.int().min(0).max(20_000).nullable(),
  boxNote: z.string().max(400),
  school: z.enum(['careful', 'recovery']),
  decision: z.object({
    act: z.enum(['testAll', 'return', 'accept']),
    reason: z.string().trim().min(3, 'Expected a reason.').max(400),
    planId: z.int(),
  }),
  ...Object.fromEntries(ARRIVAL_STEPS.map((step) => [`skip:${step}`, z.boolean()])),
} as const;
export type ReceivingField = keyof typeof FIELDS | `skip:${ArrivalStep}`;

/** Fields that say what a cell weighs. */
const OF_MASS = new Set(['grossG', 'tareG', 'netG', 'scaleToleranceG']);

/** Fields only a lead may set. */
const OF_LEAD = new Set(['school', 'decision']);

export const receivingInput = z.object({
  lotId: z.int(),
  clientKey: z.uuid(),
  entries: z
    .array(z.object({ field: z.string(), value: z.unknown() }))
    .min(1)
    .max(60),
});

/**
 * Keeps what was entered while receiving a lot. Entries only ever add; the newest of a field
 * counts and all stay visible, so two people at one box lose nothing of each other.
 */
export const recordReceiving = procedure({
  role: 'technician',
  input: receivingInput,
  run: async ({ lab, actor, input, transaction, audit, changed }): Promise<{ stored: number }> => {
    const lot = await openLot(lab, input.lotId, transaction);
    if (!(await takeBatch(lab, input.clientKey, transaction))) return { stored: 0 };
    const entries = input.entries.map(({ field, value }) => {
      const schema = (FIELDS as Record<string, z.ZodType>)[field];
      if (!schema) throw new LabError('invalid', `${field} is nothing that can be entered here.`);
      if (OF_LEAD.has(field) && actor.role === 'technician')
        throw new LabError(
          'notAllowed',
          `This needs the role lead; you are signed in as ${actor.role}.`,
        );
      const checked = schema.safeParse(value);
      if (!checked.success)
        throw new LabError('invalid', checked.error.issues[0]!.message, { field });
      return { field, value: checked.data };
    });
    const before = await valuesOf(lab, lot.id);
    const at = lab.now();
    await lab.store.arrivals.receiving.insertMany(
      entries.map((entry) => ({ ...entry, lotId: lot.id, personId: actor.id, at })),
      transaction,
    );
    if (entries.some(({ field }) => field === 'school' || field.startsWith('skip:')))
      changed({ what: 'arrivalRules', lotId: lot.id });
    if (entries.some(({ field }) => OF_MASS.has(field)))
      changed({ what: 'boxMass', lotId: lot.id });
    await audit({
      act: 'received',
      subjectType: 'lot',
      subjectId: lot.code,
      before: Object.fromEntries(entries.map(({ field }) => [field, before.get(field) ?? null])),
      after: Object.fromEntries(entries.map(({ field, value }) => [field, value])),
    });
    return { stored: entries.length };
  },
});

async function valuesOf(lab: Lab, lotId: number): Promise<Map<string, unknown>> {
  const entries = await lab.store.arrivals.newestReceiving(lotId);
  return new Map(entries.map((entry) => [entry.field, entry.value]));
}

export interface Part {
  name: string;
  expected: number;
  found: number | null;
}

export interface BoxView {
  values: {
    counted: number | null;
    packsCounted: number | null;
    grossG: number | null;
    tareG: number | null;
    netG: number | null;
    scaleToleranceG: number | null;
    boxNote: string;
  };
  parts: Part[];
  judgement: BoxJudgement;
  /** What the claim says a cell weighs, g. */
  cellMassG: number | null;
  /** What somebody entered, newest first, so that two people see each other. */
  history: { field: string; value: unknown; person: string; at: Date }[];
}

/** The box: counted, weighed, what came along, and who entered what. */
export const boxView = question({
  role: 'technician',
  input: z.object({ lotId: z.int() }),
  run: async (lab, { lotId }): Promise<BoxView> => {
    const [{ lot, claim }, values, history, people] = await Promise.all([
      loadClaim(lab, lotId),
      valuesOf(lab, lotId),
      lab.store.arrivals.receiving.find({ lotId }, { order: [['id', 'DESC']], limit: 30 }),
      lab.store.people.find({}, { columns: ['id', 'name'] }),
    ]);
    const number = (field: string) => (values.get(field) as number | null | undefined) ?? null;
    const mass = claim.items.find((item) => item.kind === 'mass');
    const tolerance = mass?.conditions.find((condition) => condition.name === 'tolerancePct');
    const weights = {
      grossG: number('grossG'),
      tareG: number('tareG'),
      netG: number('netG'),
      scaleToleranceG: number('scaleToleranceG'),
    };
    const name = new Map(people.map((person) => [person.id, person.name]));
    return {
      values: {
        ...weights,
        counted: number('counted'),
        packsCounted: number('packsCounted'),
        boxNote: (values.get('boxNote') as string | undefined) ?? '',
      },
      parts: (values.get('parts') as Part[] | undefined) ?? [],
      judgement: judged(),
      cellMassG: mass?.value ?? null,
      history: history.map(({ field, value, personId, at }) => ({
        field,
        value,
        person: name.get(personId) ?? '',
        at,
      })),
    };

    function judged(): BoxJudgement {
      try {
        return weighBox({
          ...weights,
          scaleToleranceG: weights.scaleToleranceG ?? 5,
          cells: lot.quantity,
          cellMassG: mass?.value ?? null,
          cellTolerancePct: (tolerance?.value as number | undefined) ?? null,
        });
      } catch (error) {
        return {
          netG: null,
          perCellG: null,
          differenceG: null,
          toleranceG: null,
          verdict: 'unknown',
          sentence: (error as Error).message,
        };
      }
    }
  },
});
