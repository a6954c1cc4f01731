import { AQLS, type DescribedPlan, describePlan, LEVELS } from '@dusk-tally/core/arrivals';
import { z } from 'zod';
import { LabError } from '../shared';

const percent = z.number().min(0).max(100);
const twoRisks = {
  goodPct: percent,
  producerRiskPct: percent,
  badPct: percent,
  consumerRiskPct: percent,
};

export const planInput = z.discriminatedUnion('method', [
  z.object({ method: z.literal('all') }),
  z.object({
    method: z.literal('attributes'),
    level: z.enum(LEVELS),
    aql: z.enum(AQLS as [string, ...string[]], 'Expected one of the standard’s AQL steps.'),
  }),
  z.object({ method: z.literal('risk'), ...twoRisks }),
  z.object({ method: z.literal('sequential'), ...twoRisks }),
]);
export type PlanInput = z.output<typeof planInput>;

/** A plan for a lot size, in numbers and words. @throws LabError for one that cannot be. */
export function planFor(lotSize: number, input: PlanInput): DescribedPlan {
  try {
    return describePlan(lotSize, input);
  } catch (error) {
    if (error instanceof RangeError) throw new LabError('invalid', error.message);
    throw error;
  }
}
