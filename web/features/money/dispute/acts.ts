'use server';

import type { Procedure } from '@dusk-tally/lab';
import {
  changeDispute,
  draftLetter,
  issueDisputeFile,
  keepLetter,
  letterWentOut,
  moveDispute,
  openDispute,
} from '@dusk-tally/lab/disputes';
import { revalidatePath } from 'next/cache';
import { lab } from '@/lib/lab';
import { type Outcome, outcomeOf } from '@/lib/outcome';
import { actor } from '@/lib/session';

type Input<P> = P extends Procedure<infer I, unknown> ? I : never;

async function act<I, R>(procedure: Procedure<I, R>, input: I): Promise<Outcome<R>> {
  const outcome = await outcomeOf(procedure(lab(), await actor(), input));
  if (outcome.ok) revalidatePath('/', 'layout');
  return outcome;
}

export const openDisputeAct = async (input: Input<typeof openDispute>) => act(openDispute, input);
export const changeDisputeAct = async (input: Input<typeof changeDispute>) =>
  act(changeDispute, input);
export const moveDisputeAct = async (input: Input<typeof moveDispute>) => act(moveDispute, input);
export const issueFileAct = async (input: Input<typeof issueDisputeFile>) =>
  act(issueDisputeFile, input);
export const draftLetterAct = async (input: Input<typeof draftLetter>) => act(draftLetter, input);
export const letterWentOutAct = async (input: Input<typeof letterWentOut>) =>
  act(letterWentOut, input);

/** Keeps a letter; the page stays as it is, so that nobody’s typing is interrupted. */
export const keepLetterAct = async (
  input: Input<typeof keepLetter>,
): Promise<Outcome<{ version: number }>> => outcomeOf(keepLetter(lab(), await actor(), input));
