import { randomInt } from 'node:crypto';
import { z } from 'zod';
import { ownPasswordInput, personChange } from '../inputs';
import { found, type Lab, LabError, procedure } from '../shared';
import type { PersonRow, Transaction } from '@dusk-tally/store';
import { passwordProblem } from './password-rules';
import { hashPassword, passwordFits } from './passwords';

/** Letters and digits nobody takes for another. */
const CLEAR = 'abcdefghjkmnpqrstuvwxyz23456789';

/** A password made for one sign-in, to be read out or handed over: four groups of four. */
export function oncePassword(): string {
  const group = () => Array.from({ length: 4 }, () => CLEAR[randomInt(CLEAR.length)]).join('');
  return Array.from({ length: 4 }, group).join('-');
}

async function person(lab: Lab, id: number, transaction: Transaction): Promise<PersonRow> {
  const row = found(
    await lab.store.people.one({ id }, { transaction, forUpdate: true }),
    'That person',
  );
  if (row.role === 'system') throw new LabError('notFound', 'That person is not here.');
  return row;
}

/**
 * Changes one’s own password; every other session of that person ends at once.
 * @returns the epoch sessions must carry from now on.
 */
export const changeOwnPassword = procedure({
  role: 'technician',
  input: ownPasswordInput,
  prepare: async (lab, { current, next }, actor) => {
    const row = found(await lab.store.people.one({ id: actor.id }), 'That person');
    if (!(await passwordFits(row.passwordHash, current)))
      throw new LabError('invalid', 'This is not your password.', { field: 'current' });
    if (current === next)
      throw new LabError('invalid', 'Expected another password than before.', { field: 'next' });
    const { labName } = found(await lab.store.settings.one({ id: 1 }), 'The lab’s settings');
    const problem = passwordProblem(next, [row.name, row.email, labName, 'dusk tally']);
    if (problem) throw new LabError('invalid', problem, { field: 'next' });
    return { hash: await hashPassword(next), before: row.passwordHash };
  },
  run: async ({ lab, actor, prepared, transaction, audit }): Promise<{ sessionEpoch: number }> => {
    const row = await person(lab, actor.id, transaction);
    if (row.passwordHash !== prepared.before)
      throw new LabError('conflict', 'Your password was changed in the meantime. Sign in again.');
    const sessionEpoch = row.sessionEpoch + 1;
    await lab.store.people.update(
      { passwordHash: prepared.hash, passwordIsOnce: false, sessionEpoch },
      { id: row.id },
      transaction,
    );
    await audit({ act: 'changed own password', subjectType: 'person', subjectId: row.id });
    return { sessionEpoch };
  },
});

/** Gives a person a password for one sign-in; their sessions end at once. @returns it, this once. */
export const resetPassword = procedure({
  role: 'admin',
  isSecret: true,
  input: z.object({ id: z.int() }),
  prepare: async () => {
    const password = oncePassword();
    return { password, hash: await hashPassword(password) };
  },
  run: async ({ lab, actor, input, prepared, transaction, audit }): Promise<{ once: string }> => {
    const row = await person(lab, input.id, transaction);
    if (row.id === actor.id)
      throw new LabError('invalid', 'Change your own password under your name.');
    await lab.store.people.update(
      {
        passwordHash: prepared.hash,
        passwordIsOnce: true,
        sessionEpoch: row.sessionEpoch + 1,
      },
      { id: row.id },
      transaction,
    );
    await audit({ act: 'reset password', subjectType: 'person', subjectId: row.id });
    return { once: prepared.password };
  },
});

/** Mends a person’s name or gives another role; with another role their sessions end at once. */
export const changePerson = procedure({
  role: 'admin',
  input: personChange,
  run: async ({ lab, actor, input, transaction, audit }) => {
    const row = await person(lab, input.id, transaction);
    const { name, role, reason } = input;
    if (row.id === actor.id && role !== row.role)
      throw new LabError('invalid', 'You cannot change your own role.', { field: 'role' });
    if (row.role === 'admin' && role !== 'admin') {
      const admins = await lab.store.people.count({ role: 'admin', active: true }, transaction);
      if (row.active && admins < 2)
        throw new LabError('invalid', 'The last admin stays one.', { field: 'role' });
    }
    await lab.store.people.update(
      {
        name,
        role,
        sessionEpoch: role === row.role ? row.sessionEpoch : row.sessionEpoch + 1,
        version: row.version + 1,
      },
      { id: row.id },
      transaction,
    );
    await audit({
      act: 'changed person',
      subjectType: 'person',
      subjectId: row.id,
      before: { name: row.name, role: row.role },
      after: { name, role, reason },
    });
  },
});
