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

/** Answers a question for who is signed in. */
async function ask<I, R>(question: Procedure<I, R>, input: I): Promise<Outcome<R>> {
  return outcomeOf(question(lab(), await actor(), input));
}

export const setCountAct = async (input: Input<typeof setCount>) => act(setCount, input);
export const changeOrderAct = async (input: Input<typeof changeOrder>) => act(changeOrder, input);
export const cancelLotAct = async (input: Input<typeof cancelLot>) => act(cancelLot, input);
export const resumeLotAct = async (input: Input<typeof resumeLot>) => act(resumeLot, input);
export const keepOfferAct = async (input: Input<typeof keepOffer>) => act(keepOffer, input);
export const makeGoodAct = async (input: Input<typeof makeGood>) => act(makeGood, input);
export const withdrawFindingAct = async (input: Input<typeof withdrawFinding>) =>
  act(withdrawFinding, input);
export const releaseCellAct = async (input: Input<typeof releaseCell>) => act(releaseCell, input);
export const noteRecoveryAct = async (input: Input<typeof noteRecovery>) =>
  act(noteRecovery, input);
export const addPacksAct = async (input: Input<typeof addPacks>) => act(addPacks, input);
export const breakDownPackAct = async (input: Input<typeof breakDownPack>) =>
  act(breakDownPack, input);
export const acknowledgeAct = async (input: Input<typeof acknowledge>) => act(acknowledge, input);
export const setHarvestAct = async (input: Input<typeof setHarvest>) => act(setHarvest, input);
export const drawPlanAct = async (input: Input<typeof drawPlan>) => act(drawPlan, input);
export const addTemplateAct = async (input: Input<typeof addTemplate>) => act(addTemplate, input);
export const switchTemplateAct = async (input: Input<typeof switchTemplate>) =>
  act(switchTemplate, input);
export const nameMakerAct = async (input: Input<typeof nameMaker>) => act(nameMaker, input);
export const setProfileAct = async (input: Input<typeof setProfile>) => act(setProfile, input);
export const completeModelAct = async (input: Input<typeof completeModel>) =>
  act(completeModel, input);
export const changeLotModelAct = async (input: Input<typeof changeLotModel>) =>
  act(changeLotModel, input);
export const previewModelAct = async (input: Input<typeof previewModelChange>) =>
  ask(previewModelChange, input);
export const tryTemplateAct = async (input: Input<typeof tryTemplate>) => ask(tryTemplate, input);
export const labelCandidatesAct = async (input: Input<typeof labelCandidates>) =>
  ask(labelCandidates, input);
export const setPhotoAsideAct = async (input: Input<typeof setPhotoAside>) =>
  act(setPhotoAside, input);
