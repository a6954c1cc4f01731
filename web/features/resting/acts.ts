'use server';

import type { RestProtocol } from '@dusk-tally/core/resting';
import {
  type Laid,
  layToRest,
  listProtocols,
  saveProtocol,
  takeFromShelf,
} from '@dusk-tally/lab/resting';
import { lab } from '@/lib/lab';
import type { Outcome } from '@/lib/outcome';
import { type ActInput, runAct } from '@/lib/run-act';
import { actor } from '@/lib/session';

/** Lays full cells on the shelf. */
export const layToRestAct = async (
  input: ActInput<typeof layToRest>,
  key?: string,
): Promise<Outcome<Laid>> => runAct(layToRest, input, key);

/** Takes cells off the shelf before their rest is over. */
export const takeFromShelfAct = async (input: ActInput<typeof takeFromShelf>, key?: string) =>
  runAct(takeFromShelf, input, key);

/** The protocols cells can be laid down by. */
export const offeredProtocolsAct = async (): Promise<RestProtocol[]> =>
  (await listProtocols(lab(), await actor(), {})).map(({ protocol }) => protocol);

/** Writes a protocol, or a new version of one. */
export const saveProtocolAct = async (input: ActInput<typeof saveProtocol>, key?: string) =>
  runAct(saveProtocol, input, key);
