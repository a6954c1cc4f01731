'use server';

import { changeClaim, labelCell, reopenSample } from '@dusk-tally/lab/arrivals';
import type { takeInInput } from '@dusk-tally/lab/inputs';
import { takeIn } from '@dusk-tally/lab/suppliers';
import type { z } from 'zod';
import { type ActInput, runAct } from '@/lib/run-act';

export type NewLot = z.input<typeof takeInInput>;

/** Takes in a lot, with its supplier and model when they are new. */
export const takeInLotAct = async (input: NewLot, key?: string) => runAct(takeIn, input, key);

export const changeClaimAct = async (input: ActInput<typeof changeClaim>, key?: string) =>
  runAct(changeClaim, input, key);

export const labelCellAct = async (input: ActInput<typeof labelCell>, key?: string) =>
  runAct(labelCell, input, key);

/** Opens a drawn sample again. */
export const reopenSampleAct = async (input: ActInput<typeof reopenSample>, key?: string) =>
  runAct(reopenSample, input, key);
