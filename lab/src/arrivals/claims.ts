import { CLAIM_KINDS } from '@dusk-tally/core/arrivals';
import {
  CHEMISTRY_PROFILES,
  claimPlausibility,
  type Envelope,
  type Plausibility,
} from '@dusk-tally/core/chemistry';
import type { CellModelRow, ClaimItemRow } from '@dusk-tally/store';
import { z } from 'zod';

const positive = z.number().positive('Expected a number above 0.').finite();

/** Conditions a claim item is made under (handbook, chapter 1, "The claim"). */
export const claimConditions = z.object({
  rateIt: positive.max(50).optional(),
  cutoffV: positive.max(6).optional(),
  chargeV: positive.max(6).optional(),
  temperatureC: z.number().min(-20).max(60).optional(),
  restMinutes: z.number().min(0).max(10080).optional(),
  statedAs: z.enum(['minimum', 'typical', 'maximum']).optional(),
  stateOfChargePct: z.number().min(0).max(100).optional(),
  pulseS: positive.optional(),
  tolerancePct: z.number().min(0).max(100).optional(),
  paysReturnFreight: z.enum(['buyer', 'supplier']).optional(),
});

const UNITS: Partial<Record<(typeof CLAIM_KINDS)[number], string>> = {
  capacity: 'Ah',
  acResistance: 'mΩ',
  dcResistance: 'mΩ',
  maxCharge: 'A',
  maxDischarge: 'A',
  mass: 'g',
  disputeWindow: 'days',
  quantity: 'cells',
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
  .refine((item) => !(item.kind in UNITS) || item.value !== null, {
    message: 'Expected a number for this item.',
  })
  .refine((item) => item.kind in UNITS || item.text !== null, {
    message: 'Expected words for this item.',
  })
  .transform((item) => ({ ...item, unit: UNITS[item.kind] ?? null }));

/** All items of a claim, one of each kind. */
export const claimInput = z
  .array(claimItemInput)
  .max(CLAIM_KINDS.length)
  .refine((items) => new Set(items.map((item) => item.kind)).size === items.length, {
    message: 'Expected each kind of item once.',
  });

/** A value with where it came from: the claim, the model's data sheet, or the chemistry. */
export interface Inherited<T> {
  value: T;
  from: 'claim' | 'model' | 'chemistry';
}

/** The claim as it is judged: stated values, else the model's, else the chemistry's. */
export interface EffectiveClaim {
  capacityAh: Inherited<number> | null;
  rateIt: Inherited<number> | null;
  cutoffV: Inherited<number>;
  temperatureC: Inherited<number> | null;
  acResistanceMohm: Inherited<number> | null;
  plausibility: Plausibility | null;
}

function firstOf<T>(
  ...candidates: [T | null | undefined, Inherited<T>['from']][]
): Inherited<T> | null {
  for (const [value, from] of candidates)
    if (value !== null && value !== undefined) return { value, from };
  return null;
}

/** Outer dimensions of a model, when they are known. */
export function envelopeOf(model: CellModelRow): Envelope | null {
  const { diameterMm, widthMm, thicknessMm, heightMm } = model;
  if (model.format === 'cylinder')
    return diameterMm && heightMm ? { shape: 'cylinder', diameterMm, heightMm } : null;
  return widthMm && thicknessMm && heightMm
    ? { shape: 'prism', widthMm, thicknessMm, heightMm }
    : null;
}

/** Resolves what a lot's claim means, condition by condition. */
export function effectiveClaim(
  items: Pick<ClaimItemRow, 'kind' | 'value' | 'conditions'>[],
  model: CellModelRow,
): EffectiveClaim {
  const item = (kind: ClaimItemRow['kind']) => items.find((candidate) => candidate.kind === kind);
  const capacity = item('capacity');
  const capacityAh = firstOf([capacity?.value, 'claim'], [model.ratedAh, 'model']);
  const profile = CHEMISTRY_PROFILES[model.chemistry];
  return {
    capacityAh,
    rateIt: firstOf([capacity?.conditions.rateIt, 'claim'], [model.rateIt, 'model']),
    cutoffV: firstOf(
      [capacity?.conditions.cutoffV, 'claim'],
      [model.cutoffV, 'model'],
      [profile.cutoffV, 'chemistry'],
    )!,
    temperatureC: firstOf(
      [capacity?.conditions.temperatureC, 'claim'],
      [model.temperatureC, 'model'],
    ),
    acResistanceMohm: firstOf(
      [item('acResistance')?.value, 'claim'],
      [model.acResistanceMohm, 'model'],
    ),
    plausibility: capacityAh
      ? claimPlausibility({
          ratedAh: capacityAh.value,
          chemistry: model.chemistry,
          envelope: envelopeOf(model),
          massG: item('mass')?.value ?? model.massG,
        })
      : null,
  };
}
