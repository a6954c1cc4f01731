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
import type { Procedure } from '@dusk-tally/lab';
import { revalidatePath } from 'next/cache';
import { lab } from '@/lib/lab';
import { type Outcome, outcomeOf } from '@/lib/outcome';
import { actor } from '@/lib/session';

/** Runs a procedure for who is signed in; screens that show what it changed are made again. */
async function act<Input, Result>(
  procedure: Procedure<Input, Result>,
  input: Input,
): Promise<Outcome<Result>> {
  const outcome = await outcomeOf(procedure(lab(), await actor(), input));
  if (outcome.ok) revalidatePath('/', 'layout');
  return outcome;
}
type Input<P> = P extends Procedure<infer I, unknown> ? I : never;

export const addInstrumentAct = async (input: Input<typeof addInstrument>) =>
  act(addInstrument, input);
export const changeInstrumentAct = async (input: Input<typeof changeInstrument>) =>
  act(changeInstrument, input);
export const previewMeterChangeAct = async (input: Input<typeof previewMeterChange>) =>
  outcomeOf(previewMeterChange(lab(), await actor(), input));

/** Computes a run again from its stored trace, without storing anything. */
export async function checkRunAct(input: { id: number }): Promise<Outcome<CheckedFigure[]>> {
  return outcomeOf(checkRun(lab(), await actor(), input));
}

/** Keeps how the columns of one header shape are to be read. */
export async function keepMappingAct(input: {
  shape: string;
  fileName: string;
  mapping: LogMapping;
}): Promise<Outcome<void>> {
  return outcomeOf(keepMapping(lab(), await actor(), input));
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
export async function recordRetightenedAct(input: { number: string }): Promise<Outcome<void>> {
  const outcome = await outcomeOf(recordRetightened(lab(), await actor(), input));
  if (outcome.ok) revalidatePath(`/cells/${input.number}`);
  return outcome;
}

export const tieStringAct = async (input: Input<typeof tieString>) => act(tieString, input);
export const takeBackStringAct = async (input: Input<typeof takeBackString>) =>
  act(takeBackString, input);
export const compareStringsAct = async (input: Input<typeof compareStrings>) =>
  outcomeOf(compareStrings(lab(), await actor(), input));
