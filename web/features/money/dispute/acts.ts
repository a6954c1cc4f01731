'use server';

import {
  changeDispute,
  draftLetter,
  issueDisputeFile,
  keepLetter,
  letterWentOut,
  moveDispute,
  openDispute,
  undoMove,
} from '@dusk-tally/lab/disputes';
import { type ActInput, runAct } from '@/lib/run-act';

export const openDisputeAct = async (input: ActInput<typeof openDispute>, key?: string) =>
  runAct(openDispute, input, key);
export const changeDisputeAct = async (input: ActInput<typeof changeDispute>, key?: string) =>
  runAct(changeDispute, input, key);
export const moveDisputeAct = async (input: ActInput<typeof moveDispute>, key?: string) =>
  runAct(moveDispute, input, key);
export const issueFileAct = async (input: ActInput<typeof issueDisputeFile>, key?: string) =>
  runAct(issueDisputeFile, input, key);
export const draftLetterAct = async (input: ActInput<typeof draftLetter>, key?: string) =>
  runAct(draftLetter, input, key);
export const letterWentOutAct = async (input: ActInput<typeof letterWentOut>, key?: string) =>
  runAct(letterWentOut, input, key);

export const keepLetterAct = async (input: ActInput<typeof keepLetter>, key?: string) =>
  runAct(keepLetter, input, key);
export const undoMoveAct = async (input: ActInput<typeof undoMove>, key?: string) =>
  runAct(undoMove, input, key);
