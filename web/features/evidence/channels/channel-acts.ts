'use server';

import {
  addChannel,
  addComparison,
  changeChannel,
  keepControlCell,
  lookAtChannel,
  studyGauge,
} from '@dusk-tally/lab/evidence';
import { lab } from '@/lib/lab';
import { outcomeOf } from '@/lib/outcome';
import { type ActInput, runAct } from '@/lib/run-act';
import { actor } from '@/lib/session';

export const addChannelAct = async (input: ActInput<typeof addChannel>, key?: string) =>
  runAct(addChannel, input, key);
export const changeChannelAct = async (input: ActInput<typeof changeChannel>, key?: string) =>
  runAct(changeChannel, input, key);
export const lookAtChannelAct = async (input: ActInput<typeof lookAtChannel>, key?: string) =>
  runAct(lookAtChannel, input, key);
export const keepControlCellAct = async (input: ActInput<typeof keepControlCell>, key?: string) =>
  runAct(keepControlCell, input, key);
export const addComparisonAct = async (input: ActInput<typeof addComparison>, key?: string) =>
  runAct(addComparison, input, key);
export const studyGaugeAct = async (input: ActInput<typeof studyGauge>) =>
  outcomeOf(studyGauge(lab(), await actor(), input));
