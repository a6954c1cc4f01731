'use server';

import {
  addChannel,
  addComparison,
  changeChannel,
  keepControlCell,
  lookAtChannel,
  studyGauge,
} from '@dusk-tally/lab/evidence';
import type { Procedure } from '@dusk-tally/lab';
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

export const addChannelAct = async (input: Input<typeof addChannel>) => act(addChannel, input);
export const changeChannelAct = async (input: Input<typeof changeChannel>) =>
  act(changeChannel, input);
export const lookAtChannelAct = async (input: Input<typeof lookAtChannel>) =>
  act(lookAtChannel, input);
export const keepControlCellAct = async (input: Input<typeof keepControlCell>) =>
  act(keepControlCell, input);
export const addComparisonAct = async (input: Input<typeof addComparison>) =>
  act(addComparison, input);
export const studyGaugeAct = async (input: Input<typeof studyGauge>) =>
  outcomeOf(studyGauge(lab(), await actor(), input));
