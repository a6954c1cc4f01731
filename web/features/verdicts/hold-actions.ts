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
import { runAct } from '@/lib/run-act';
import { actor } from '@/lib/session';

/** Lifts a hold, with a reason that stays visible. */
export async function liftHoldAct(
  input: {
    holdId: number;
    version: number;
    reason: string;
  },
  key?: string,
): Promise<Outcome<void>> {
  return runAct(liftHold, input, key);
}

/** Sets one result aside by hand. */
export async function setAsideAct(
  input: {
    runId: number | null;
    readingId: number | null;
    reason: string;
  },
  key?: string,
): Promise<Outcome<void>> {
  return runAct(setAside, input, key);
}

/** Gives a run to the cell it is of. */
export async function moveRunAct(
  input: {
    runId: number;
    toCell: string;
    reason: string;
  },
  key?: string,
): Promise<Outcome<{ cell: string }>> {
  return runAct(moveRun, input, key);
}

/** Gives two logs that are held as swapped to each other’s cells. */
export async function exchangeRunsAct(
  input: {
    holdId: number;
    version: number;
    reason: string;
  },
  key?: string,
): Promise<Outcome<{ cells: string[] }>> {
  return runAct(exchangeRuns, input, key);
}

/** Changes the limits holds are decided by. */
export async function changeHoldLimitsAct(
  input: Parameters<typeof changeHoldLimits>[2],
  key?: string,
): Promise<Outcome<void>> {
  return runAct(changeHoldLimits, input, key);
}

/** What other limits would do, before they are kept. */
export async function previewHoldLimitsAct(
  input: Parameters<typeof previewHoldLimits>[2],
): Promise<Outcome<LimitsPreview>> {
  return outcomeOf(previewHoldLimits(lab(), await actor(), input));
}
