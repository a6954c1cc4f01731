'use server';

import type { LogMapping } from '@dusk-tally/core/evidence';
import {
  addInstrument,
  changeInstrument,
  type CheckedFigure,
  checkRun,
  compareStrings,
  keepMapping,
  previewMeterChange,
  recordRetightened,
  runWindow,
  takeBackString,
  tieString,
  type WindowView,
} from '@dusk-tally/lab/evidence';
import { lab } from '@/lib/lab';
import { type Outcome, outcomeOf } from '@/lib/outcome';
import { type ActInput, runAct } from '@/lib/run-act';
import { actor } from '@/lib/session';

export const addInstrumentAct = async (input: ActInput<typeof addInstrument>, key?: string) =>
  runAct(addInstrument, input, key);
export const changeInstrumentAct = async (input: ActInput<typeof changeInstrument>, key?: string) =>
  runAct(changeInstrument, input, key);
export const previewMeterChangeAct = async (input: ActInput<typeof previewMeterChange>) =>
  outcomeOf(previewMeterChange(lab(), await actor(), input));

/** Computes a run again from its stored trace, without storing anything. */
export async function checkRunAct(input: { id: number }): Promise<Outcome<CheckedFigure[]>> {
  return outcomeOf(checkRun(lab(), await actor(), input));
}

/** Keeps how the columns of one header shape are to be read. */
export async function keepMappingAct(
  input: {
    shape: string;
    fileName: string;
    mapping: LogMapping;
  },
  key?: string,
): Promise<Outcome<void>> {
  return runAct(keepMapping, input, key);
}

/** Charge of a run between two voltages. */
export async function runWindowAct(input: {
  id: number;
  fromV: number;
  toV: number;
}): Promise<Outcome<WindowView>> {
  return outcomeOf(runWindow(lab(), await actor(), input));
}

/** Records that a cell’s joint was made again. */
export async function recordRetightenedAct(
  input: { number: string },
  key?: string,
): Promise<Outcome<void>> {
  return runAct(recordRetightened, input, key);
}

export const tieStringAct = async (input: ActInput<typeof tieString>, key?: string) =>
  runAct(tieString, input, key);
export const takeBackStringAct = async (input: ActInput<typeof takeBackString>, key?: string) =>
  runAct(takeBackString, input, key);
export const compareStringsAct = async (input: ActInput<typeof compareStrings>) =>
  outcomeOf(compareStrings(lab(), await actor(), input));
