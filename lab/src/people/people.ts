import type { PersonRow, Transaction } from '@dusk-tally/store';
import { z } from 'zod';
import { personInput } from '../inputs';
import { found, isDuplicate, type Lab, LabError, procedure, question, writeAudit } from '../shared';
import { oncePassword } from './accounts';
import { passwordProblem } from './password-rules';
import { hashPassword } from './passwords';

/** With a password its owner chose: the first admin, and people made by scripts. */
const withPassword = personInput
  .extend({ password: z.string() })
  .superRefine(({ name, email, password }, context) => {
    const problem = passwordProblem(password, [name, email]);
    if (problem) context.addIssue({ code: 'custom', path: ['password'], message: problem });
  });

type PersonView = Omit<PersonRow, 'passwordHash' | 'sessionEpoch'>;
const view = ({ passwordHash: _hash, sessionEpoch: _epoch, ...rest }: PersonRow): PersonView =>
  rest;

async function insertPerson(
  lab: Lab,
  input: z.output<typeof personInput>,
  { hash, isOnce }: { hash: string; isOnce: boolean },
  transaction: Transaction,
): Promise<PersonRow> {
  const { email, name, role } = input;
  try {
    return await lab.store.people.insert(
      {
        email,
        name,
        role,
        passwordHash: hash,
        passwordIsOnce: isOnce,
        active: true,
        sessionEpoch: 1,
        createdAt: lab.now(),
      },
      transaction,
    );
  } catch (error) {
    if (isDuplicate(error))
      throw new LabError('duplicate', `${email} is here already.`, { field: 'email' });
    throw error;
  }
}

const noteOf = ({ id, email, name, role }: PersonRow) => ({
  act: 'added person',
  subjectType: 'person',
  subjectId: id,
  after: { email, name, role },
});

/** Adds a person with a password for one sign-in; admins only. @returns it, this once. */
export const addPerson = procedure({
  role: 'admin',
  isSecret: true,
  input: personInput,
  prepare: async () => {
    const once = oncePassword();
    return { once, hash: await hashPassword(once) };
  },
  run: async ({ lab, input, prepared, transaction, audit }) => {
    const row = await insertPerson(lab, input, { hash: prepared.hash, isOnce: true }, transaction);
    await audit(noteOf(row));
    return { person: view(row), once: prepared.once };
  },
});

/** Adds a person with a password that is known already; for scripts, no screen offers it. */
export const addPersonWithPassword = procedure({
  role: 'admin',
  input: withPassword,
  prepare: (_lab, input) => hashPassword(input.password),
  run: async ({ lab, input, prepared, transaction, audit }): Promise<PersonView> => {
    const row = await insertPerson(lab, input, { hash: prepared, isOnce: false }, transaction);
    await audit(noteOf(row));
    return view(row);
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
export async function makeFirstAdmin(
  lab: Lab,
  input: z.input<typeof withPassword>,
): Promise<boolean> {
  const data = withPassword.parse(input);
  const hash = await hashPassword(data.password);
  return lab.store.transaction(async (transaction) => {
    const able = await lab.store.people.count(
      { role: { not: 'system' }, active: true },
      transaction,
    );
    if (able > 0) return false;
    const row = await insertPerson(lab, data, { hash, isOnce: false }, transaction);
    await writeAudit(lab, null, noteOf(row), transaction);
    return true;
  });
}

/** Name, place, currency and time zone of the lab. */
export const labSettings = question({
  role: 'technician',
  input: z.object({}),
  run: async (lab) => found(await lab.store.settings.one({ id: 1 }), 'The lab’s settings'),
});
