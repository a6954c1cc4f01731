'use server';

import type { RestProtocol } from '@dusk-tally/core/resting';
import {
  type Laid,
  layToRest,
  listProtocols,
  saveProtocol,
  takeFromShelf,
} from '@dusk-tally/lab/resting';
import { revalidatePath } from 'next/cache';
import { lab } from '@/lib/lab';
import { type Outcome, outcomeOf } from '@/lib/outcome';
import { actor } from '@/lib/session';

/** Lays full cells on the shelf. */
export async function layToRestAct(input: Parameters<typeof layToRest>[2]): Promise<Outcome<Laid>> {
  const outcome = await outcomeOf(layToRest(lab(), await actor(), input));
  if (outcome.ok) revalidatePath('/', 'layout');
  return outcome;
}

/** Takes cells off the shelf before their rest is over. */
export async function takeFromShelfAct(
  input: Parameters<typeof takeFromShelf>[2],
): Promise<Outcome<{ taken: number }>> {
  const outcome = await outcomeOf(takeFromShelf(lab(), await actor(), input));
  if (outcome.ok) revalidatePath('/', 'layout');
  return outcome;
}

/** The protocols cells can be laid down by. */
export const offeredProtocolsAct = async (): Promise<RestProtocol[]> =>
  (await listProtocols(lab(), await actor(), {})).map(({ protocol }) => protocol);

/** Writes a protocol, or a new version of one. */
export async function saveProtocolAct(
  input: Parameters<typeof saveProtocol>[2],
): Promise<Outcome<{ version: number }>> {
  const outcome = await outcomeOf(saveProtocol(lab(), await actor(), input));
  if (outcome.ok) revalidatePath('/', 'layout');
  return outcome;
}
