import type { RecipeConditions } from '@dusk-tally/core/bench';
import type { Chemistry, Clamping } from '@dusk-tally/core/chemistry';
import type { Transaction } from '@dusk-tally/store';
import { type EffectiveClaim, loadClaim, loadClaims, type LotClaim } from '../lots';
import { type Lab, LabError } from '../shared';

/** What recipes stand for with the cells of a lot. */
export interface LotConditions extends RecipeConditions {
  chemistry: Chemistry;
  /** Lowest voltage its chemistry takes, V. */
  lowV: number;
  claimTemperatureC: number | null;
  /** How cells are held for the claimed capacity; null where neither claim nor data sheet says. */
  claimedClamping: Clamping | null;
}

/** The claim’s rate where none is stated, It. */
const USUAL_RATE_IT = 0.2;

/** Rate a capacity is claimed at, It; the usual one where none is stated. */
export const claimedRateIt = ({ rateIt }: Pick<EffectiveClaim, 'rateIt'>): number =>
  rateIt?.value ?? USUAL_RATE_IT;

/** Conditions from a lot’s claim, model and chemistry, or why no recipe can be settled by them. */
function conditionsOrWhy({ lot, claim, model, profile }: LotClaim): LotConditions | string {
  const ratedAh = claim.capacityAh?.value ?? model.ratedAh;
  if (!ratedAh)
    return `${lot.code} claims no capacity and its model states none: no recipe can be settled. Enter the claim first.`;
  const capacity = claim.items.find(({ kind }) => kind === 'capacity');
  const chargeV = capacity?.conditions.find(({ name }) => name === 'chargeV')?.value;
  const number = (kind: 'maxCharge' | 'maxDischarge') =>
    claim.items.find((item) => item.kind === kind)?.value ?? null;
  return {
    chemistry: model.chemistry,
    ratedAh,
    claimRateIt: claimedRateIt(claim),
    claimCutoffV: claim.cutoffV.value,
    claimTemperatureC: claim.temperatureC?.value ?? null,
    claimedClamping: claim.clamping?.value ?? null,
    chargeV: typeof chargeV === 'number' ? chargeV : profile.chargeV,
    storageV: (profile.storageV[0] + profile.storageV[1]) / 2,
    maxChargeA: number('maxCharge'),
    maxDischargeA: number('maxDischarge'),
    lowV: Math.min(profile.cutoffV, claim.cutoffV.value),
  };
}

/** Conditions of some lots, asked of all at once: by lot; words where one has no capacity known. */
export async function conditionsOfLots(
  lab: Lab,
  lotIds: readonly number[],
  transaction?: Transaction,
): Promise<Map<number, LotConditions | string>> {
  const lots = await lab.store.lots.find({ id: [...lotIds] }, { transaction });
  const claims = await loadClaims(lab, lots, transaction);
  return new Map([...claims].map(([lotId, claim]) => [lotId, conditionsOrWhy(claim)]));
}

/** Conditions of a lot. @throws LabError where no capacity is known. */
export async function lotConditions(
  lab: Lab,
  lotId: number,
  transaction?: Transaction,
): Promise<LotConditions> {
  const claim = await loadClaim(lab, lotId, transaction);
  const conditions = conditionsOrWhy(claim);
  if (typeof conditions === 'string')
    throw new LabError('invalid', conditions, { link: `/lots/${claim.lot.code}/claim` });
  return conditions;
}
