'use server';

import {
  addPerson,
  changeOwnPassword,
  changePerson,
  resetPassword,
  setPersonActive,
  signIn,
} from '@dusk-tally/lab/people';
import { headers } from 'next/headers';
import { redirect } from 'next/navigation';
import { lab } from '@/lib/lab';
import { type Outcome, outcomeOf } from '@/lib/outcome';
import { renewed, runAct } from '@/lib/run-act';
import { accountActor, actor, session } from '@/lib/session';

/**
 * Where a request comes from: the last address is the one the proxy in front added itself; those
 * before it are what the sender says, and could name somebody else’s place.
 */
async function placeOfRequest(): Promise<string> {
  return (await headers()).get('x-forwarded-for')?.split(',').at(-1)?.trim() ?? '';
}

export async function signInAct(
  _before: Outcome<null> | null,
  form: FormData,
): Promise<Outcome<null>> {
  const outcome = await outcomeOf(
    signIn(
      lab(),
      { email: form.get('email'), password: form.get('password') },
      await placeOfRequest(),
    ),
  );
  if (!outcome.ok) return outcome;
  const cookie = await session();
  cookie.id = outcome.data.id;
  cookie.sessionEpoch = outcome.data.sessionEpoch;
  await cookie.save();
  redirect(outcome.data.passwordIsOnce ? '/account' : '/');
}

export async function signOutAct(): Promise<void> {
  (await session()).destroy();
  redirect('/sign-in');
}

/** Changes one’s own password; this session goes on, all others of the person end. */
export async function changeOwnPasswordAct(input: {
  current: string;
  next: string;
}): Promise<Outcome<null>> {
  const outcome = await outcomeOf(changeOwnPassword(lab(), await accountActor(), input));
  if (!outcome.ok) return outcome;
  const cookie = await session();
  cookie.sessionEpoch = outcome.data.sessionEpoch;
  await cookie.save();
  return { ok: true, data: null };
}

export async function addPersonAct(
  input: Parameters<typeof addPerson>[2],
  key?: string,
): Promise<Outcome<{ once: string }>> {
  const outcome = await renewed(addPerson(lab(), await actor(), input, key));
  return outcome.ok ? { ok: true, data: { once: outcome.data.once } } : outcome;
}

export async function changePersonAct(
  input: Parameters<typeof changePerson>[2],
  key?: string,
): Promise<Outcome<void>> {
  return runAct(changePerson, input, key);
}

export async function resetPasswordAct(
  id: number,
  key?: string,
): Promise<Outcome<{ once: string }>> {
  return runAct(resetPassword, { id }, key);
}

export async function setPersonActiveAct(
  id: number,
  active: boolean,
  key?: string,
): Promise<Outcome<void>> {
  return runAct(setPersonActive, { id, active }, key);
}
