'use server';

import {
  changeDispute,
  draftLetter,
  issueDisputeFile,
  keepLetter,
  letterWentOut,
  moveDispute,
  openDispute,
} from '@dusk-tally/lab/disputes';
import { lab } from '@/lib/lab';
import { type Outcome, outcomeOf } from '@/lib/outcome';
import { type ActInput, runAct } from '@/lib/run-act';
import { actor } from '@/lib/session';

export const openDisputeAct = async (input: ActInput<typeof openDispute>) =>
  runAct(openDispute, input);
export const changeDisputeAct = async (input: ActInput<typeof changeDispute>) =>
  runAct(changeDispute, input);
export const moveDisputeAct = async (input: ActInput<typeof moveDispute>) =>
  runAct(moveDispute, input);
export const issueFileAct = async (input: ActInput<typeof issueDisputeFile>) =>
  runAct(issueDisputeFile, input);
export const draftLetterAct = async (input: ActInput<typeof draftLetter>) =>
  runAct(draftLetter, input);
export const letterWentOutAct = async (input: ActInput<typeof letterWentOut>) =>
  runAct(letterWentOut, input);

/** Keeps a letter; the page stays as it is, so that nobody’s typing is interrupted. */
export const keepLetterAct = async (
  input: ActInput<typeof keepLetter>,
): Promise<Outcome<{ version: number }>> => outcomeOf(keepLetter(lab(), await actor(), input));
