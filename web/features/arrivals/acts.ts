'use server';

import { changeClaim, labelCell, reopenSample } from '@dusk-tally/lab/arrivals';
import type { takeInInput } from '@dusk-tally/lab/inputs';
import { takeIn } from '@dusk-tally/lab/suppliers';
import type { z } from 'zod';
import { type ActInput, runAct } from '@/lib/run-act';

export type NewLot = z.input<typeof takeInInput>;

/** Takes in a lot, with its supplier and model when they are new. */
export const takeInLotAct = async (input: NewLot) => runAct(takeIn, input);

export const changeClaimAct = async (input: ActInput<typeof changeClaim>) =>
  runAct(changeClaim, input);

export const labelCellAct = async (input: ActInput<typeof labelCell>) => runAct(labelCell, input);

/** Opens a drawn sample again. */
export const reopenSampleAct = async (input: ActInput<typeof reopenSample>) =>
  runAct(reopenSample, input);
