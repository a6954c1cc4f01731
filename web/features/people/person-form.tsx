'use client';

import { type FormEvent, useState } from 'react';
import { Button } from '@/kit/button';
import { Choice, Option } from '@/kit/choice';
import { Input, Label } from '@/kit/form-parts';
import { Problem } from '@/kit/page';
import { Over } from '@/kit/panel-over';
import { useAct } from '@/kit/use-act';
import { addPersonAct, changePersonAct, resetPasswordAct, setPersonActiveAct } from './acts';

type Role = 'technician' | 'lead' | 'admin';

function RoleChoice({ role, onRole }: { role: Role; onRole: (role: Role) => void }) {
  return (
    <Label text="Role">
      <Choice value={role} onValue={(next) => onRole(next as Role)}>
        <Option value="technician">technician</Option>
        <Option value="lead">lead</Option>
        <Option value="admin">admin</Option>
      </Choice>
    </Label>
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

/** Adds a person; their first password is made, not chosen. */
export function PersonForm() {
  const { run, busy, problem } = useAct();
  const [name, setName] = useState('');
  const [email, setEmail] = useState('');
  const [role, setRole] = useState<Role>('technician');
  const [made, setMade] = useState<{ name: string; once: string } | null>(null);
  const add = (event: FormEvent) => {
    event.preventDefault();
    run(
      () => addPersonAct({ name, email, role }),
      ({ once }) => {
        setMade({ name, once });
        setName('');
        setEmail('');
      },
    );
  };
  return (
    <form
      onSubmit={add}
      aria-label="A new person"
      className="mt-4 space-y-3 border-t border-rule pt-4"
    >
      <div className="grid gap-3 sm:grid-cols-3">
        <Label text="Name">
          <Input value={name} onChange={(event) => setName(event.target.value)} />
        </Label>
        <Label text="E-mail">
          <Input
            type="email"
            autoComplete="off"
            value={email}
            onChange={(event) => setEmail(event.target.value)}
          />
        </Label>
        <RoleChoice role={role} onRole={setRole} />
      </div>
      {problem && <Problem>{problem}</Problem>}
      <Button type="submit" disabled={busy}>
        Add the person
      </Button>
      {made && <OncePassword {...made} done={() => setMade(null)} />}
    </form>
  );
}

interface Person {
  id: number;
  name: string;
  role: string;
  active: boolean;
}

function ChangePerson({ person, done }: { person: Person; done: () => void }) {
  const { run, busy, problem } = useAct();
  const [name, setName] = useState(person.name);
  const [role, setRole] = useState(person.role as Role);
  const [reason, setReason] = useState('');
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
      <form
        className="space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          run(() => changePersonAct({ id: person.id, name, role, reason }), done);
        }}
      >
        <Label text="Name">
          <Input value={name} onChange={(event) => setName(event.target.value)} />
        </Label>
        <RoleChoice role={role} onRole={setRole} />
        <Label text="Why">
          <Input value={reason} onChange={(event) => setReason(event.target.value)} />
        </Label>
        {problem && <Problem>{problem}</Problem>}
        <Button look="primary" type="submit" disabled={busy}>
          Keep the change
        </Button>
      </form>
    </Over>
  );
}

/** What an admin can do with a person. */
export function PersonActs({ person }: { person: Person }) {
  const { run, busy, problem } = useAct();
  const [changing, setChanging] = useState(false);
  const [once, setOnce] = useState<string | null>(null);
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
            () => resetPasswordAct(person.id),
            (made) => setOnce(made.once),
          )
        }
      >
        Reset the password
      </Button>
      <Button
        look="bare"
        disabled={busy}
        onClick={() => run(() => setPersonActiveAct(person.id, !person.active))}
      >
        {person.active ? 'Shut out' : 'Let in again'}
      </Button>
      {problem && <Problem>{problem}</Problem>}
      {changing && <ChangePerson person={person} done={() => setChanging(false)} />}
      {once !== null && <OncePassword name={person.name} once={once} done={() => setOnce(null)} />}
    </span>
  );
}
