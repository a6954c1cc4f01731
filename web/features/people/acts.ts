'use server';

import { addPerson, setPersonActive, signIn } from '@dusk-tally/lab/people';
import { revalidatePath } from 'next/cache';
import { redirect } from 'next/navigation';
import { lab } from '@/lib/lab';
import { type Outcome, outcomeOf } from '@/lib/outcome';
import { actor, session } from '@/lib/session';

export async function signInAct(
  _before: Outcome<null> | null,
  form: FormData,
): Promise<Outcome<null>> {
  const outcome = await outcomeOf(
    signIn(lab(), { email: form.get('email'), password: form.get('password') }),
  );
  if (!outcome.ok) return outcome;
  const cookie = await session();
  cookie.id = outcome.data.id;
  cookie.sessionEpoch = outcome.data.sessionEpoch;
  await cookie.save();
  redirect('/');
}

export async function signOutAct(): Promise<void> {
  (await session()).destroy();
  redirect('/sign-in');
}

export async function addPersonAct(
  _before: Outcome<unknown> | null,
  form: FormData,
): Promise<Outcome<unknown>> {
  const text = (name: string) => String(form.get(name) ?? '');
  const role = text('role') as 'technician' | 'lead' | 'admin';
  const outcome = await outcomeOf(
    addPerson(lab(), await actor(), {
      email: text('email'),
      name: text('name'),
      role,
      password: text('password'),
    }),
  );
  if (outcome.ok) revalidatePath('/lab');
  return outcome;
}

export async function setPersonActiveAct(id: number, active: boolean): Promise<Outcome<void>> {
  const outcome = await outcomeOf(setPersonActive(lab(), await actor(), { id, active }));
  if (outcome.ok) revalidatePath('/lab');
  return outcome;
}
