'use server';

import {
  changeHoldLimits,
  exchangeRuns,
  liftHold,
  type LimitsPreview,
  moveRun,
  previewHoldLimits,
  setAside,
} from '@dusk-tally/lab/verdicts';
import { lab } from '@/lib/lab';
import { type Outcome, outcomeOf } from '@/lib/outcome';
import { renewed } from '@/lib/run-act';
import { actor } from '@/lib/session';

/** Lifts a hold, with a reason that stays visible. */
export async function liftHoldAct(input: {
  holdId: number;
  version: number;
  reason: string;
}): Promise<Outcome<void>> {
  return renewed(liftHold(lab(), await actor(), input));
}

/** Sets one result aside by hand. */
export async function setAsideAct(input: {
  runId: number | null;
  readingId: number | null;
  reason: string;
}): Promise<Outcome<void>> {
  return renewed(setAside(lab(), await actor(), input));
}

/** Gives a run to the cell it is of. */
export async function moveRunAct(input: {
  runId: number;
  toCell: string;
  reason: string;
}): Promise<Outcome<{ cell: string }>> {
  return renewed(moveRun(lab(), await actor(), input));
}

/** Gives two logs that are held as swapped to each other’s cells. */
export async function exchangeRunsAct(input: {
  holdId: number;
  version: number;
  reason: string;
}): Promise<Outcome<{ cells: string[] }>> {
  return renewed(exchangeRuns(lab(), await actor(), input));
}

/** Changes the limits holds are decided by. */
export async function changeHoldLimitsAct(
  input: Parameters<typeof changeHoldLimits>[2],
): Promise<Outcome<void>> {
  return renewed(changeHoldLimits(lab(), await actor(), input));
}

/** What other limits would do, before they are kept. */
export async function previewHoldLimitsAct(
  input: Parameters<typeof previewHoldLimits>[2],
): Promise<Outcome<LimitsPreview>> {
  return outcomeOf(previewHoldLimits(lab(), await actor(), input));
}
