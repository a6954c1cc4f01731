'use server';

import { endHandLog, setHandLog, takeBackHandPoint } from '@dusk-tally/lab/gathering';
import { type ActInput, runAct } from '@/lib/run-act';

/** Says when the load came on and how the tester was set. */
export const setHandLogAct = async (input: ActInput<typeof setHandLog>, key?: string) =>
  runAct(setHandLog, input, key);
/** Takes a point back. */
export const takeBackHandPointAct = async (
  input: ActInput<typeof takeBackHandPoint>,
  key?: string,
) => runAct(takeBackHandPoint, input, key);
/** Ends a hand log: what it gives becomes the cell’s capacity. */
export const endHandLogAct = async (input: ActInput<typeof endHandLog>, key?: string) =>
  runAct(endHandLog, input, key);
