'use server';

import type { Procedure } from '@dusk-tally/lab';
import {
  acknowledgeAlarms,
  addJobs,
  beginParallelCharge,
  cancelJobs,
  changeBenchSettings,
  changeJob,
  commandRun,
  endParallelCharge,
  finishByHand,
  makeToken,
  moveJob,
  planAll,
  readAmbient,
  retireRecipe,
  revokeToken,
  saveRecipe,
  saveStringTest,
  setChannelLimits,
  seeRefused,
  spotReading,
  startJob,
  startList,
  unpinJob,
} from '@dusk-tally/lab/bench';
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

export const addJobsAct = async (input: Input<typeof addJobs>) => act(addJobs, input);
export const changeJobAct = async (input: Input<typeof changeJob>) => act(changeJob, input);
export const cancelJobsAct = async (input: Input<typeof cancelJobs>) => act(cancelJobs, input);
export const planAllAct = async (input: Input<typeof planAll>) => act(planAll, input);
export const moveJobAct = async (input: Input<typeof moveJob>) => act(moveJob, input);
export const unpinJobAct = async (input: Input<typeof unpinJob>) => act(unpinJob, input);
export const startListAct = async (input: Input<typeof startList>) =>
  outcomeOf(startList(lab(), await actor(), input));
export const startJobAct = async (input: Input<typeof startJob>) => act(startJob, input);
export const commandRunAct = async (input: Input<typeof commandRun>) => act(commandRun, input);
export const acknowledgeAct = async (input: Input<typeof acknowledgeAlarms>) =>
  act(acknowledgeAlarms, input);
export const seeRefusedAct = async (input: Input<typeof seeRefused>) => act(seeRefused, input);
export const spotReadingAct = async (input: Input<typeof spotReading>) => act(spotReading, input);
export const finishByHandAct = async (input: Input<typeof finishByHand>) =>
  act(finishByHand, input);
export const readAmbientAct = async (input: Input<typeof readAmbient>) => act(readAmbient, input);
export const changeBenchSettingsAct = async (input: Input<typeof changeBenchSettings>) =>
  act(changeBenchSettings, input);
export const setChannelLimitsAct = async (input: Input<typeof setChannelLimits>) =>
  act(setChannelLimits, input);
export const saveRecipeAct = async (input: Input<typeof saveRecipe>) => act(saveRecipe, input);
export const retireRecipeAct = async (input: Input<typeof retireRecipe>) =>
  act(retireRecipe, input);
export const makeTokenAct = async (input: Input<typeof makeToken>) => act(makeToken, input);
export const revokeTokenAct = async (input: Input<typeof revokeToken>) => act(revokeToken, input);
export const beginParallelChargeAct = async (input: Input<typeof beginParallelCharge>) =>
  act(beginParallelCharge, input);
export const endParallelChargeAct = async (input: Input<typeof endParallelCharge>) =>
  act(endParallelCharge, input);
export const saveStringTestAct = async (input: Input<typeof saveStringTest>) =>
  act(saveStringTest, input);
