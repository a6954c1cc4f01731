'use server';

import {
  decideGrade,
  endScheme,
  saveScheme,
  type SchemeTrial,
  takeBackDecision,
  tryScheme,
} from '@dusk-tally/lab/verdicts';
import { lab } from '@/lib/lab';
import { type Outcome, outcomeOf } from '@/lib/outcome';
import { type ActInput, runAct } from '@/lib/run-act';
import { actor } from '@/lib/session';

export const saveSchemeAct = async (input: ActInput<typeof saveScheme>, key?: string) =>
  runAct(saveScheme, input, key);
export const endSchemeAct = async (input: ActInput<typeof endScheme>, key?: string) =>
  runAct(endScheme, input, key);
export const decideGradeAct = async (input: ActInput<typeof decideGrade>, key?: string) =>
  runAct(decideGrade, input, key);
export const takeBackDecisionAct = async (input: ActInput<typeof takeBackDecision>, key?: string) =>
  runAct(takeBackDecision, input, key);

/** What a scheme would do, before it is kept. */
export async function trySchemeAct(
  input: Parameters<typeof tryScheme>[2],
): Promise<Outcome<SchemeTrial>> {
  return outcomeOf(tryScheme(lab(), await actor(), input));
}
