'use client';

import { useActionState, useTransition } from 'react';
import { toast } from 'sonner';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { addPersonAct, setPersonActiveAct } from './acts';

/** Adds a person with a first password. */
export function PersonForm() {
  const [outcome, act, busy] = useActionState(addPersonAct, null);
  return (
    <form action={act} className="mt-4 space-y-3 border-t border-rule pt-4">
      <div className="grid gap-3 sm:grid-cols-4">
        <label>
          <span className="mb-1 block text-quiet">Name</span>
          <input name="name" className="field" />
        </label>
        <label>
          <span className="mb-1 block text-quiet">E-mail</span>
          <input name="email" type="email" className="field" autoComplete="off" />
        </label>
        <label>
          <span className="mb-1 block text-quiet">Role</span>
          <select name="role" className="field">
            <option value="technician">technician</option>
            <option value="lead">lead</option>
            <option value="admin">admin</option>
          </select>
        </label>
        <label>
          <span className="mb-1 block text-quiet">First password</span>
          <input name="password" type="password" className="field" autoComplete="new-password" />
        </label>
      </div>
      {outcome && !outcome.ok && <Problem>{outcome.message}</Problem>}
      <Button type="submit" disabled={busy}>
        Add the person
      </Button>
    </form>
  );
}

/** Shuts a person out, or lets them in again. */
export function AccessButton({ id, active }: { id: number; active: boolean }) {
  const [busy, startTransition] = useTransition();
  const change = () =>
    startTransition(async () => {
      const outcome = await setPersonActiveAct(id, !active);
      if (!outcome.ok) toast(outcome.message);
    });
  return (
    <Button look="bare" disabled={busy} onClick={change}>
      {active ? 'Shut out' : 'Let in again'}
    </Button>
  );
}
