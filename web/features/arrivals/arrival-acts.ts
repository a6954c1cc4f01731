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

export const setCountAct = async (input: ActInput<typeof setCount>) => runAct(setCount, input);
export const changeOrderAct = async (input: ActInput<typeof changeOrder>) =>
  runAct(changeOrder, input);
export const cancelLotAct = async (input: ActInput<typeof cancelLot>) => runAct(cancelLot, input);
export const resumeLotAct = async (input: ActInput<typeof resumeLot>) => runAct(resumeLot, input);
export const keepOfferAct = async (input: ActInput<typeof keepOffer>) => runAct(keepOffer, input);
export const makeGoodAct = async (input: ActInput<typeof makeGood>) => runAct(makeGood, input);
export const withdrawFindingAct = async (input: ActInput<typeof withdrawFinding>) =>
  runAct(withdrawFinding, input);
export const releaseCellAct = async (input: ActInput<typeof releaseCell>) =>
  runAct(releaseCell, input);
export const noteRecoveryAct = async (input: ActInput<typeof noteRecovery>) =>
  runAct(noteRecovery, input);
export const addPacksAct = async (input: ActInput<typeof addPacks>) => runAct(addPacks, input);
export const breakDownPackAct = async (input: ActInput<typeof breakDownPack>) =>
  runAct(breakDownPack, input);
export const acknowledgeAct = async (input: ActInput<typeof acknowledge>) =>
  runAct(acknowledge, input);
export const setHarvestAct = async (input: ActInput<typeof setHarvest>) =>
  runAct(setHarvest, input);
export const drawPlanAct = async (input: ActInput<typeof drawPlan>) => runAct(drawPlan, input);
export const addTemplateAct = async (input: ActInput<typeof addTemplate>) =>
  runAct(addTemplate, input);
export const switchTemplateAct = async (input: ActInput<typeof switchTemplate>) =>
  runAct(switchTemplate, input);
export const nameMakerAct = async (input: ActInput<typeof nameMaker>) => runAct(nameMaker, input);
export const setProfileAct = async (input: ActInput<typeof setProfile>) =>
  runAct(setProfile, input);
export const completeModelAct = async (input: ActInput<typeof completeModel>) =>
  runAct(completeModel, input);
export const changeLotModelAct = async (input: ActInput<typeof changeLotModel>) =>
  runAct(changeLotModel, input);
export const previewModelAct = async (input: ActInput<typeof previewModelChange>) =>
  ask(previewModelChange, input);
export const tryTemplateAct = async (input: ActInput<typeof tryTemplate>) =>
  ask(tryTemplate, input);
export const labelCandidatesAct = async (input: ActInput<typeof labelCandidates>) =>
  ask(labelCandidates, input);
export const setPhotoAsideAct = async (input: ActInput<typeof setPhotoAside>) =>
  runAct(setPhotoAside, input);
