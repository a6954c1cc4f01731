'use server';

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
  takeUpRecipe,
  unpinJob,
} from '@dusk-tally/lab/bench';
import { lab } from '@/lib/lab';
import { outcomeOf } from '@/lib/outcome';
import { type ActInput, runAct } from '@/lib/run-act';
import { actor } from '@/lib/session';

export const addJobsAct = async (input: ActInput<typeof addJobs>) => runAct(addJobs, input);
export const changeJobAct = async (input: ActInput<typeof changeJob>) => runAct(changeJob, input);
export const cancelJobsAct = async (input: ActInput<typeof cancelJobs>) =>
  runAct(cancelJobs, input);
export const planAllAct = async (input: ActInput<typeof planAll>) => runAct(planAll, input);
export const moveJobAct = async (input: ActInput<typeof moveJob>) => runAct(moveJob, input);
export const unpinJobAct = async (input: ActInput<typeof unpinJob>) => runAct(unpinJob, input);
export const startListAct = async (input: ActInput<typeof startList>) =>
  outcomeOf(startList(lab(), await actor(), input));
export const startJobAct = async (input: ActInput<typeof startJob>) => runAct(startJob, input);
export const commandRunAct = async (input: ActInput<typeof commandRun>) =>
  runAct(commandRun, input);
export const acknowledgeAct = async (input: ActInput<typeof acknowledgeAlarms>) =>
  runAct(acknowledgeAlarms, input);
export const seeRefusedAct = async (input: ActInput<typeof seeRefused>) =>
  runAct(seeRefused, input);
export const spotReadingAct = async (input: ActInput<typeof spotReading>) =>
  runAct(spotReading, input);
export const finishByHandAct = async (input: ActInput<typeof finishByHand>) =>
  runAct(finishByHand, input);
export const readAmbientAct = async (input: ActInput<typeof readAmbient>) =>
  runAct(readAmbient, input);
export const changeBenchSettingsAct = async (input: ActInput<typeof changeBenchSettings>) =>
  runAct(changeBenchSettings, input);
export const setChannelLimitsAct = async (input: ActInput<typeof setChannelLimits>) =>
  runAct(setChannelLimits, input);
export const saveRecipeAct = async (input: ActInput<typeof saveRecipe>) =>
  runAct(saveRecipe, input);
export const retireRecipeAct = async (input: ActInput<typeof retireRecipe>) =>
  runAct(retireRecipe, input);
export const takeUpRecipeAct = async (input: ActInput<typeof takeUpRecipe>) =>
  runAct(takeUpRecipe, input);
export const makeTokenAct = async (input: ActInput<typeof makeToken>) => runAct(makeToken, input);
export const revokeTokenAct = async (input: ActInput<typeof revokeToken>) =>
  runAct(revokeToken, input);
export const beginParallelChargeAct = async (input: ActInput<typeof beginParallelCharge>) =>
  runAct(beginParallelCharge, input);
export const endParallelChargeAct = async (input: ActInput<typeof endParallelCharge>) =>
  runAct(endParallelCharge, input);
export const saveStringTestAct = async (input: ActInput<typeof saveStringTest>) =>
  runAct(saveStringTest, input);
