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
import { type ActInput, runAct } from '@/lib/run-act';

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

export const keepLetterAct = async (input: ActInput<typeof keepLetter>) =>
  runAct(keepLetter, input);
