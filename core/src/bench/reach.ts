import { openCircuitVoltage } from '../simulator';
import type { Chemistry } from '../chemistry';
import { type ChannelLimits, type ReachableCurrent, reachableCurrent } from './reachable-current';
import { charges, discharges, type ProgramStep, type RecipeConditions } from './recipe';

/** The most current a channel reaches with a cell, each way. */
export interface Reach {
  charge: ReachableCurrent;
  discharge: ReachableCurrent;
}

/** What a channel reaches with a half-full cell of a lot, whose claim may limit both ways. */
export function reachOf(
  limits: ChannelLimits,
  conditions: Pick<RecipeConditions, 'maxChargeA' | 'maxDischargeA'> & { chemistry: Chemistry },
): Reach {
  const startV = openCircuitVoltage(conditions.chemistry, 0.5);
  return {
    charge: reachableCurrent(limits, startV, conditions.maxChargeA),
    discharge: reachableCurrent(limits, startV, conditions.maxDischargeA),
  };
}

/** A step with its current limited to what the channel reaches, and its longest time made longer for it. */
export function limitedToReach(
  step: ProgramStep,
  reach: { charge: { amps: number }; discharge: { amps: number } },
): ProgramStep {
  const [most, least] = [reach.charge.amps, Math.min(reach.charge.amps, reach.discharge.amps)];
  if (step.kind === 'charge' && step.amps > most)
    return {
      ...step,
      amps: most,
      maxS: (step.maxS * step.amps) / most,
      taperA: Math.min(step.taperA, 0.9 * most),
    };
  if (step.kind === 'toStorage' && step.amps > least)
    return { ...step, amps: least, maxS: (step.maxS * step.amps) / least };
  if (step.kind === 'discharge' && step.mode === 'current' && step.set > reach.discharge.amps)
    return {
      ...step,
      set: reach.discharge.amps,
      maxS: step.endsByTime ? step.maxS : (step.maxS * step.set) / reach.discharge.amps,
    };
  return step;
}

/**
 * Why a channel cannot run a program; null where it can.
 * @param chargeV highest voltage of the program, V.
 */
export function channelProblem(
  program: readonly ProgramStep[],
  limits: ChannelLimits,
  { chargeV }: Pick<RecipeConditions, 'chargeV'>,
): string | null {
  if (charges(program) && !limits.canCharge) return 'it cannot charge';
  if (discharges(program) && !limits.canDischarge) return 'it cannot discharge';
  if (chargeV > limits.maxV) return `it takes at most ${limits.maxV} V`;
  const least = Math.min(
    ...program.flatMap((step) =>
      step.kind === 'charge'
        ? [step.taperA]
        : step.kind === 'discharge' && step.mode === 'current'
          ? [step.set]
          : [],
    ),
  );
  return least < limits.minA ? `it sets no less than ${limits.minA} A` : null;
}
