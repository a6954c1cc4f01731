'use client';

import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import { Button } from '@/kit/button';
import { Option } from '@/kit/choice';
import { ChoiceField, TextField } from '@/kit/form/fields';
import { Form } from '@/kit/form/form';
import { useLabForm } from '@/kit/form/use-lab-form';
import { Problem } from '@/kit/page';
import { Over, Sure } from '@/kit/panel-over';
import { useAct } from '@/kit/use-act';
import { addPersonAct, changePersonAct, resetPasswordAct, setPersonActiveAct } from './acts';

type Role = 'technician' | 'lead' | 'admin';

function RoleField() {
  return (
    <ChoiceField name="role" label="Role">
      <Option value="technician">technician</Option>
      <Option value="lead">lead</Option>
      <Option value="admin">admin</Option>
    </ChoiceField>
  );
}

/** A password that is shown this once, to be handed over. */
function OncePassword({ name, once, done }: { name: string; once: string; done: () => void }) {
  return (
    <Over
      open
      onOpen={(open) => !open && done()}
      width={460}
      title={`Password of ${name}, for one sign-in`}
      says="It is shown this once. Hand it over; a new one must be chosen at that sign-in."
    >
      <p className="rounded-sm bg-wash p-3 text-center text-xl tracking-wide tabular-nums">
        <code data-testid="once-password">{once}</code>
      </p>
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={() => void navigator.clipboard.writeText(once)}>Copy it</Button>
        <Button look="primary" onClick={done}>
          Handed over
        </Button>
      </div>
    </Over>
  );
}

const NOBODY = { name: '', email: '', role: 'technician' as Role };

/** Adds a person; their first password is made, not chosen. */
export function PersonForm() {
  const [made, setMade] = useState<{ name: string; once: string } | null>(null);
  const form = useLabForm({
    schema: 'personInput',
    first: NOBODY,
    act: addPersonAct,
    done: ({ once }) => {
      setMade({ name: form.form.getValues('name'), once });
      form.forget();
    },
  });
  return (
    <>
      <Form
        of={form}
        label="A new person"
        act="Add the person"
        look="plain"
        className="mt-4 space-y-3 border-t border-rule pt-4"
      >
        <div className="grid gap-3 sm:grid-cols-3">
          <TextField name="name" label="Name" />
          <TextField name="email" type="email" autoComplete="off" label="E-mail" />
          <RoleField />
        </div>
      </Form>
      {made && <OncePassword {...made} done={() => setMade(null)} />}
    </>
  );
}

interface Person {
  id: number;
  name: string;
  role: string;
  active: boolean;
}

function ChangePerson({ person, done }: { person: Person; done: () => void }) {
  const form = useLabForm({
    schema: 'personChange',
    first: { id: person.id, name: person.name, role: person.role as Role, reason: '' },
    act: changePersonAct,
    done,
  });
  const role = useWatch({ control: form.form.control, name: 'role' });
  return (
    <Over
      open
      onOpen={(open) => !open && done()}
      width={460}
      title={`Change ${person.name}`}
      says={
        role === person.role
          ? 'What they did keeps the name they had then.'
          : `As ${role} from now on; they are signed out everywhere at once.`
      }
    >
      <Form of={form} act="Keep the change">
        <TextField name="name" label="Name" />
        <RoleField />
        <TextField name="reason" label="Why" />
      </Form>
    </Over>
  );
}

/** What an admin can do with a person. */
export function PersonActs({ person }: { person: Person }) {
  const { run, busy, problem } = useAct();
  const [changing, setChanging] = useState(false);
  const [once, setOnce] = useState<string | null>(null);
  const [shuts, setShuts] = useState(false);
  const letIn = () => run((key) => setPersonActiveAct(person.id, true, key));
  return (
    <span className="flex flex-wrap items-center justify-end gap-1">
      <Button look="bare" onClick={() => setChanging(true)}>
        Change
      </Button>
      <Button
        look="bare"
        disabled={busy}
        onClick={() =>
          run(
            (key) => resetPasswordAct(person.id, key),
            (made) => setOnce(made.once),
          )
        }
      >
        Reset the password
      </Button>
      <Button
        look="bare"
        disabled={busy}
        onClick={() => (person.active ? setShuts(true) : letIn())}
      >
        {person.active ? 'Shut out' : 'Let in again'}
      </Button>
      <Sure
        open={shuts}
        onOpen={setShuts}
        title={`Shut out ${person.name}?`}
        says="They are signed out everywhere at once and cannot sign in until somebody lets them in again. What they did stays."
        act="Shut out"
        stay="Leave it"
        onSure={() => run((key) => setPersonActiveAct(person.id, false, key))}
      />
      {problem && <Problem>{problem}</Problem>}
      {changing && <ChangePerson person={person} done={() => setChanging(false)} />}
      {once !== null && <OncePassword name={person.name} once={once} done={() => setOnce(null)} />}
    </span>
  );
}
