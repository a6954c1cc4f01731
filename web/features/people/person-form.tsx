'use client';

import { useActionState, useState, useTransition } from 'react';
import { toast } from 'sonner';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { addPersonAct, setPersonActiveAct } from './acts';
import { Input, Label } from '@/kit/form-parts';
import { Choice, Option } from '@/kit/choice';

/** Adds a person with a first password. */
export function PersonForm() {
  const [outcome, act, busy] = useActionState(addPersonAct, null);
  const [role, setRole] = useState('technician');
  return (
    <form action={act} className="mt-4 space-y-3 border-t border-rule pt-4">
      <div className="grid gap-3 sm:grid-cols-4">
        <Label text="Name">
          <Input name="name" />
        </Label>
        <Label text="E-mail">
          <Input name="email" type="email" autoComplete="off" />
        </Label>
        <Label text="Role">
          <Choice name="role" value={role} onValue={setRole}>
            <Option value="technician">technician</Option>
            <Option value="lead">lead</Option>
            <Option value="admin">admin</Option>
          </Choice>
        </Label>
        <Label text="First password">
          <Input name="password" type="password" autoComplete="new-password" />
        </Label>
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
