import type { OperatingPoint } from '@dusk-tally/core/arrivals';
import type { SamplingPlanRow } from '@dusk-tally/store';
import { type PlanInput, planFor } from './plan-for';

/** A drawn plan in words, without the search for its boundaries. */
export function toldPlan(plan: SamplingPlanRow): { words: string; curve: OperatingPoint[] } {
  const input = { method: plan.method, ...plan.parameters } as PlanInput;
  if (input.method !== 'sequential') return planFor(plan.lotSize, input);
  return {
    words: `At most n = ${plan.sampleSize}, Ac = ${plan.acceptance}, decided as soon as the results allow: a lot with ${input.goodPct} % short is turned away with at most ${input.producerRiskPct} %, one with ${input.badPct} % taken with at most ${input.consumerRiskPct} %. A result too close to call counts as short; a held one is passed over for the next of the order.`,
    curve: planFor(plan.lotSize, { ...input, method: 'risk' }).curve,
  };
}
