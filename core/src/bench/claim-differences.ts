import { ampsOf, type ProgramStep, type RecipeConditions } from './recipe';
import type { ReachableCurrent } from './reachable-current';

/** Shares and volts a test may differ from the claim’s conditions by and still be the same. */
const SAME_RATE = 0.02;
const SAME_V = 0.01;
/** Shortest rest after a charge a claim is checked with, s. */
const SHORTEST_REST_S = 3600;
/** From this far off the rate, results are no longer corrected (handbook, chapter 3, corrections table). */
const FAR_RATE = 5;

/** What a planned run differs in from the claim’s conditions, in words; empty for nothing. */
export function claimDifferences(
  program: readonly ProgramStep[],
  conditions: RecipeConditions,
  reach: { charge: ReachableCurrent; discharge: ReachableCurrent } | null,
): string[] {
  const said: string[] = [];
  const claimA = ampsOf({ in: 'claimRate' }, conditions);
  const index = program.findIndex((step) => step.kind === 'discharge');
  const step = program[index];
  if (step?.kind !== 'discharge') {
    said.push('It holds no discharge: it says nothing about the claimed capacity.');
    return said;
  }
  const wantedA = step.mode === 'current' ? step.set : null;
  const gotA = wantedA === null ? null : Math.min(wantedA, reach?.discharge.amps ?? Infinity);
  if (wantedA === null)
    said.push(
      'It discharges at constant power or into a resistor; the claim is stated at a constant current.',
    );
  if (wantedA !== null && gotA! < wantedA * (1 - 1e-6))
    said.push(
      `The channel reaches ${gotA!.toFixed(2)} A (${(gotA! / conditions.ratedAh).toFixed(3)} It) of the wanted ${wantedA.toFixed(2)} A, for ${reach!.discharge.limit}.`,
    );
  if (gotA !== null && Math.abs(gotA / claimA - 1) > SAME_RATE) {
    const factor = Math.max(gotA / claimA, claimA / gotA);
    said.push(
      `It discharges at ${(gotA / conditions.ratedAh).toFixed(2)} It, the claim says ${conditions.claimRateIt} It: ${factor > FAR_RATE ? 'too far to be compared' : 'the result is corrected, with more uncertainty'}.`,
    );
  }
  if (Math.abs(step.cutoffV - conditions.claimCutoffV) > SAME_V)
    said.push(
      `It ends at ${step.cutoffV} V, the claim at ${conditions.claimCutoffV} V: ${step.cutoffV > conditions.claimCutoffV ? 'the capacity will be at least what it shows' : 'the capacity is read where the trace passes the claim’s cut-off'}.`,
    );
  const before = program[index - 1];
  if (before?.kind !== 'rest' || before.seconds < SHORTEST_REST_S)
    said.push('Less than an hour of rest after charging: a large cell can read about 1 % low.');
  if (step.limitAh !== null || step.maxS < (0.95 * conditions.ratedAh * 3600) / (gotA ?? claimA))
    said.push(
      'It ends by charge or time before the cut-off: it ranks cells and never states a capacity.',
    );
  return said;
}
