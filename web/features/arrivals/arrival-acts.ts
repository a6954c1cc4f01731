'use server';

import type { Procedure } from '@dusk-tally/lab';
import {
  acknowledge,
  addPacks,
  addTemplate,
  breakDownPack,
  cancelLot,
  changeLotModel,
  changeOrder,
  completeModel,
  drawPlan,
  keepOffer,
  labelCandidates,
  makeGood,
  nameMaker,
  noteRecovery,
  previewModelChange,
  releaseCell,
  resumeLot,
  setCount,
  setHarvest,
  setPhotoAside,
  setProfile,
  tryTemplate,
  useTemplate as switchTemplate,
  withdrawFinding,
} from '@dusk-tally/lab/arrivals';
import { lab } from '@/lib/lab';
import { type Outcome, outcomeOf } from '@/lib/outcome';
import { type ActInput, runAct } from '@/lib/run-act';
import { actor } from '@/lib/session';

/** Answers a question for who is signed in. */
async function ask<I, R>(question: Procedure<I, R>, input: I): Promise<Outcome<R>> {
  return outcomeOf(question(lab(), await actor(), input));
}

export const setCountAct = async (input: ActInput<typeof setCount>, key?: string) =>
  runAct(setCount, input, key);
export const changeOrderAct = async (input: ActInput<typeof changeOrder>, key?: string) =>
  runAct(changeOrder, input, key);
export const cancelLotAct = async (input: ActInput<typeof cancelLot>, key?: string) =>
  runAct(cancelLot, input, key);
export const resumeLotAct = async (input: ActInput<typeof resumeLot>, key?: string) =>
  runAct(resumeLot, input, key);
export const keepOfferAct = async (input: ActInput<typeof keepOffer>, key?: string) =>
  runAct(keepOffer, input, key);
export const makeGoodAct = async (input: ActInput<typeof makeGood>, key?: string) =>
  runAct(makeGood, input, key);
export const withdrawFindingAct = async (input: ActInput<typeof withdrawFinding>, key?: string) =>
  runAct(withdrawFinding, input, key);
export const releaseCellAct = async (input: ActInput<typeof releaseCell>, key?: string) =>
  runAct(releaseCell, input, key);
export const noteRecoveryAct = async (input: ActInput<typeof noteRecovery>, key?: string) =>
  runAct(noteRecovery, input, key);
export const addPacksAct = async (input: ActInput<typeof addPacks>, key?: string) =>
  runAct(addPacks, input, key);
export const breakDownPackAct = async (input: ActInput<typeof breakDownPack>, key?: string) =>
  runAct(breakDownPack, input, key);
export const acknowledgeAct = async (input: ActInput<typeof acknowledge>, key?: string) =>
  runAct(acknowledge, input, key);
export const setHarvestAct = async (input: ActInput<typeof setHarvest>, key?: string) =>
  runAct(setHarvest, input, key);
export const drawPlanAct = async (input: ActInput<typeof drawPlan>, key?: string) =>
  runAct(drawPlan, input, key);
export const addTemplateAct = async (input: ActInput<typeof addTemplate>, key?: string) =>
  runAct(addTemplate, input, key);
export const switchTemplateAct = async (input: ActInput<typeof switchTemplate>, key?: string) =>
  runAct(switchTemplate, input, key);
export const nameMakerAct = async (input: ActInput<typeof nameMaker>, key?: string) =>
  runAct(nameMaker, input, key);
export const setProfileAct = async (input: ActInput<typeof setProfile>, key?: string) =>
  runAct(setProfile, input, key);
export const completeModelAct = async (input: ActInput<typeof completeModel>, key?: string) =>
  runAct(completeModel, input, key);
export const changeLotModelAct = async (input: ActInput<typeof changeLotModel>, key?: string) =>
  runAct(changeLotModel, input, key);
export const previewModelAct = async (input: ActInput<typeof previewModelChange>) =>
  ask(previewModelChange, input);
export const tryTemplateAct = async (input: ActInput<typeof tryTemplate>) =>
  ask(tryTemplate, input);
export const labelCandidatesAct = async (input: ActInput<typeof labelCandidates>) =>
  ask(labelCandidates, input);
export const setPhotoAsideAct = async (input: ActInput<typeof setPhotoAside>, key?: string) =>
  runAct(setPhotoAside, input, key);
