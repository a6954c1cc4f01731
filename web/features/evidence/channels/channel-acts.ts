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

export const addChannelAct = async (input: ActInput<typeof addChannel>) =>
  runAct(addChannel, input);
export const changeChannelAct = async (input: ActInput<typeof changeChannel>) =>
  runAct(changeChannel, input);
export const lookAtChannelAct = async (input: ActInput<typeof lookAtChannel>) =>
  runAct(lookAtChannel, input);
export const keepControlCellAct = async (input: ActInput<typeof keepControlCell>) =>
  runAct(keepControlCell, input);
export const addComparisonAct = async (input: ActInput<typeof addComparison>) =>
  runAct(addComparison, input);
export const studyGaugeAct = async (input: ActInput<typeof studyGauge>) =>
  outcomeOf(studyGauge(lab(), await actor(), input));
