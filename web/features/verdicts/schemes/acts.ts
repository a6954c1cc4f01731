'use server';

import {
  decideGrade,
  endScheme,
  saveScheme,
  type SchemeTrial,
  takeBackDecision,
  tryScheme,
} from '@dusk-tally/lab/verdicts';
import { revalidatePath } from 'next/cache';
import { lab } from '@/lib/lab';
import { type Outcome, outcomeOf } from '@/lib/outcome';
import { actor } from '@/lib/session';

const renewed = async <T>(work: Promise<T>): Promise<Outcome<T>> => {
  const outcome = await outcomeOf(work);
  if (outcome.ok) revalidatePath('/', 'layout');
  return outcome;
};

/** Keeps a new version of a scheme of grades. */
export async function saveSchemeAct(
  input: Parameters<typeof saveScheme>[2],
): Promise<Outcome<{ version: number }>> {
  return renewed(saveScheme(lab(), await actor(), input));
}

/** Ends the scheme of a chemistry or a model. */
export async function endSchemeAct(input: Parameters<typeof endScheme>[2]): Promise<Outcome<void>> {
  return renewed(endScheme(lab(), await actor(), input));
}

/** What a scheme would do, before it is kept. */
export async function trySchemeAct(
  input: Parameters<typeof tryScheme>[2],
): Promise<Outcome<SchemeTrial>> {
  return outcomeOf(tryScheme(lab(), await actor(), input));
}

/** Gives a cell a grade by decision. */
export async function decideGradeAct(
  input: Parameters<typeof decideGrade>[2],
): Promise<Outcome<void>> {
  return renewed(decideGrade(lab(), await actor(), input));
}

/** Takes a decision on a grade back. */
export async function takeBackDecisionAct(
  input: Parameters<typeof takeBackDecision>[2],
): Promise<Outcome<void>> {
  return renewed(takeBackDecision(lab(), await actor(), input));
}
