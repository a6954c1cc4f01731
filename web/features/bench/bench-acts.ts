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
import { leaveUnfolded, tryFoldAgain } from '@dusk-tally/lab/gathering';
import { lab } from '@/lib/lab';
import { type Outcome, outcomeOf } from '@/lib/outcome';
import { type ActInput, runAct } from '@/lib/run-act';
import { actor } from '@/lib/session';
import { foldSoon } from '@/lib/watch';

export const addJobsAct = async (input: ActInput<typeof addJobs>, key?: string) =>
  runAct(addJobs, input, key);
export const changeJobAct = async (input: ActInput<typeof changeJob>, key?: string) =>
  runAct(changeJob, input, key);
export const cancelJobsAct = async (input: ActInput<typeof cancelJobs>, key?: string) =>
  runAct(cancelJobs, input, key);
export const planAllAct = async (input: ActInput<typeof planAll>, key?: string) =>
  runAct(planAll, input, key);
export const moveJobAct = async (input: ActInput<typeof moveJob>, key?: string) =>
  runAct(moveJob, input, key);
export const unpinJobAct = async (input: ActInput<typeof unpinJob>, key?: string) =>
  runAct(unpinJob, input, key);
export const startListAct = async (input: ActInput<typeof startList>) =>
  outcomeOf(startList(lab(), await actor(), input));
export const startJobAct = async (input: ActInput<typeof startJob>, key?: string) =>
  runAct(startJob, input, key);
export const commandRunAct = async (input: ActInput<typeof commandRun>, key?: string) =>
  runAct(commandRun, input, key);
export const acknowledgeAct = async (input: ActInput<typeof acknowledgeAlarms>, key?: string) =>
  runAct(acknowledgeAlarms, input, key);
export const seeRefusedAct = async (input: ActInput<typeof seeRefused>, key?: string) =>
  runAct(seeRefused, input, key);
export const spotReadingAct = async (input: ActInput<typeof spotReading>, key?: string) =>
  runAct(spotReading, input, key);
export const finishByHandAct = async (input: ActInput<typeof finishByHand>, key?: string) =>
  runAct(finishByHand, input, key);
export const readAmbientAct = async (input: ActInput<typeof readAmbient>, key?: string) =>
  runAct(readAmbient, input, key);
export const changeBenchSettingsAct = async (
  input: ActInput<typeof changeBenchSettings>,
  key?: string,
) => runAct(changeBenchSettings, input, key);
export const setChannelLimitsAct = async (input: ActInput<typeof setChannelLimits>, key?: string) =>
  runAct(setChannelLimits, input, key);
export const saveRecipeAct = async (input: ActInput<typeof saveRecipe>, key?: string) =>
  runAct(saveRecipe, input, key);
export const retireRecipeAct = async (input: ActInput<typeof retireRecipe>, key?: string) =>
  runAct(retireRecipe, input, key);
export const takeUpRecipeAct = async (input: ActInput<typeof takeUpRecipe>, key?: string) =>
  runAct(takeUpRecipe, input, key);
export const makeTokenAct = async (input: ActInput<typeof makeToken>, key?: string) =>
  runAct(makeToken, input, key);
export const revokeTokenAct = async (input: ActInput<typeof revokeToken>, key?: string) =>
  runAct(revokeToken, input, key);
export const beginParallelChargeAct = async (
  input: ActInput<typeof beginParallelCharge>,
  key?: string,
) => runAct(beginParallelCharge, input, key);
export const endParallelChargeAct = async (
  input: ActInput<typeof endParallelCharge>,
  key?: string,
) => runAct(endParallelCharge, input, key);
export const saveStringTestAct = async (input: ActInput<typeof saveStringTest>, key?: string) =>
  runAct(saveStringTest, input, key);
export const leaveUnfoldedAct = async (input: ActInput<typeof leaveUnfolded>, key?: string) =>
  runAct(leaveUnfolded, input, key);

/** Has a run tried again, at once. */
export async function tryFoldAgainAct(
  input: ActInput<typeof tryFoldAgain>,
  key?: string,
): Promise<Outcome<void>> {
  const outcome = await runAct(tryFoldAgain, input, key);
  if (outcome.ok) foldSoon();
  return outcome;
}
