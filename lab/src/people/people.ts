import type { PersonRow } from '@dusk-tally/store';
import { z } from 'zod';
import {
  type Actor,
  found,
  isDuplicate,
  type Lab,
  LabError,
  procedure,
  question,
  writeAudit,
} from '../shared';
import { hashPassword, passwordFits } from './passwords';

const roles = z.enum(['technician', 'lead', 'admin']);
const FAILURES_ALLOWED = 8;
const FAILURE_WINDOW_MS = 15 * 60 * 1000;

const credentials = z.object({
  email: z.string().trim().toLowerCase().max(190),
  password: z.string().min(1).max(200),
});

export interface SignedIn extends Actor {
  sessionEpoch: number;
}

/** Checks e-mail and password; too many misses in a quarter of an hour close the door for a while. */
export async function signIn(lab: Lab, input: unknown): Promise<SignedIn> {
  const parsed = credentials.safeParse(input);
  if (!parsed.success) throw new LabError('invalid', 'Type an e-mail address and a password.');
  const { email, password } = parsed.data;
  const since = new Date(lab.now().getTime() - FAILURE_WINDOW_MS);
  const misses = await lab.store.signInFailures.count({ email, at: { atLeast: since } });
  if (misses >= FAILURES_ALLOWED) {
    throw new LabError(
      'tooMany',
      'Too many attempts for this address. Wait a quarter of an hour, then try again.',
    );
  }
  const person = await lab.store.people.one({ email });
  if (!(await passwordFits(person?.active ? person.passwordHash : null, password))) {
    await lab.store.signInFailures.insert({ email, at: lab.now() });
    throw new LabError('notSignedIn', 'E-mail address and password do not fit together.');
  }
  const actor = { id: person!.id, name: person!.name, role: person!.role };
  await lab.store.transaction((t) =>
    writeAudit(lab, actor, { act: 'signed in', subjectType: 'person', subjectId: actor.id }, t),
  );
  return { ...actor, sessionEpoch: person!.sessionEpoch };
}

/** The person behind a session, or null when it is no longer good. */
export async function personOfSession(
  lab: Lab,
  session: { id: number; sessionEpoch: number },
): Promise<Actor | null> {
  const person = await lab.store.people.one({ id: session.id });
  if (!person?.active || person.sessionEpoch !== session.sessionEpoch) return null;
  return { id: person.id, name: person.name, role: person.role };
}

const newPerson = z.object({
  email: z.email('Expected an e-mail address.').trim().toLowerCase().max(190),
  name: z.string().trim().min(1, 'Expected a name.').max(120),
  role: roles,
  password: z.string().min(10, 'Expected at least 10 characters.').max(200),
});

type PersonView = Omit<PersonRow, 'passwordHash' | 'sessionEpoch'>;
const view = ({ passwordHash: _hash, sessionEpoch: _epoch, ...rest }: PersonRow): PersonView =>
  rest;

/** Adds a person; admins only. */
export const addPerson = procedure({
  role: 'admin',
  input: newPerson,
  prepare: (_lab, input) => hashPassword(input.password),
  run: async ({ lab, input, prepared, transaction, audit }): Promise<PersonView> => {
    try {
      const { email, name, role } = input;
      const row = await lab.store.people.insert(
        {
          email,
          name,
          role,
          passwordHash: prepared,
          active: true,
          sessionEpoch: 1,
          createdAt: lab.now(),
        },
        transaction,
      );
      await audit({
        act: 'added person',
        subjectType: 'person',
        subjectId: row.id,
        after: { email, name, role },
      });
      return view(row);
    } catch (error) {
      if (isDuplicate(error))
        throw new LabError('duplicate', `${input.email} is here already.`, { field: 'email' });
      throw error;
    }
  },
});

/** Lets a person in or not; ends their sessions at once. */
export const setPersonActive = procedure({
  role: 'admin',
  input: z.object({ id: z.int(), active: z.boolean() }),
  run: async ({ lab, actor, input, transaction, audit }) => {
    const person = found(
      await lab.store.people.one({ id: input.id }, { transaction, forUpdate: true }),
      'That person',
    );
    if (person.role === 'system') throw new LabError('notFound', 'That person is not here.');
    if (person.id === actor.id) throw new LabError('invalid', 'You cannot shut yourself out.');
    await lab.store.people.update(
      { active: input.active, sessionEpoch: person.sessionEpoch + 1 },
      { id: person.id },
      transaction,
    );
    await audit({
      act: input.active ? 'let in' : 'shut out',
      subjectType: 'person',
      subjectId: person.id,
      before: { active: person.active },
      after: { active: input.active },
    });
  },
});

export const listPeople = question({
  role: 'admin',
  input: z.object({}),
  run: async (lab) =>
    (await lab.store.people.find({ role: { not: 'system' } }, { order: [['name', 'ASC']] })).map(
      view,
    ),
});

/** Makes the first admin of an empty lab. @returns false when there are people already. */
export async function makeFirstAdmin(lab: Lab, input: z.input<typeof newPerson>): Promise<boolean> {
  const data = newPerson.parse(input);
  const passwordHash = await hashPassword(data.password);
  return lab.store.transaction(async (transaction) => {
    if ((await lab.store.people.count({ role: { not: 'system' } }, transaction)) > 0) return false;
    const { email, name, role } = data;
    const row = await lab.store.people.insert(
      { email, name, role, passwordHash, active: true, sessionEpoch: 1, createdAt: lab.now() },
      transaction,
    );
    await writeAudit(
      lab,
      null,
      {
        act: 'added person',
        subjectType: 'person',
        subjectId: row.id,
        after: { email, name, role },
      },
      transaction,
    );
    return true;
  });
}

/** Name, place, currency and time zone of the lab. */
export const labSettings = question({
  role: 'technician',
  input: z.object({}),
  run: async (lab) => found(await lab.store.settings.one({ id: 1 }), 'The lab’s settings'),
});
