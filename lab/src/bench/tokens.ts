import { createHash, randomBytes } from 'node:crypto';
import type { ApiTokenRow, TokenScope } from '@dusk-tally/store';
import { z } from 'zod';
import { tokenInput } from '../inputs';
import { type Actor, found, type Lab, LabError, procedure, question } from '../shared';

/** Requests of one token in a minute, most. */
export const MOST_A_MINUTE = 1200;
/** Begins every token: a scanner for secrets can tell one. */
const PREFIX = 'dusk_';

const hashOf = (token: string) => createHash('sha256').update(token).digest('hex');

/** Makes a token. It is shown once; only its hash is kept. */
export const makeToken = procedure({
  role: 'admin',
  isSecret: true,
  input: tokenInput,
  run: async ({
    lab,
    actor,
    input,
    transaction,
    audit,
  }): Promise<{ id: number; token: string }> => {
    const token = `${PREFIX}${randomBytes(30).toString('base64url')}`;
    const scopes = [...new Set(input.scopes)];
    const row = await lab.store.bench.tokens.insert(
      {
        name: input.name,
        scopes,
        hash: hashOf(token),
        personId: actor.id,
        createdAt: lab.now(),
        revokedAt: null,
        lastUsedAt: null,
        windowAt: null,
        windowCount: 0,
      },
      transaction,
    );
    await audit({
      act: 'made token',
      subjectType: 'token',
      subjectId: row.id,
      after: { name: input.name, scopes },
    });
    return { id: row.id, token };
  },
});

/** Ends a token at once. */
export const revokeToken = procedure({
  role: 'admin',
  input: z.object({ id: z.int() }),
  run: async ({ lab, input, transaction, audit }): Promise<void> => {
    const row = found(
      await lab.store.bench.tokens.one({ id: input.id }, { transaction, forUpdate: true }),
      'That token',
    );
    if (row.revokedAt) return;
    await lab.store.bench.tokens.update({ revokedAt: lab.now() }, { id: row.id }, transaction);
    await audit({
      act: 'revoked token',
      subjectType: 'token',
      subjectId: row.id,
      before: { name: row.name },
    });
  },
});

export interface TokenView extends Omit<
  ApiTokenRow,
  'hash' | 'windowAt' | 'windowCount' | 'personId'
> {
  by: string;
}

/** All tokens, newest first; what they are is not shown. */
export const listTokens = question({
  role: 'admin',
  input: z.object({}),
  run: async (lab): Promise<TokenView[]> => {
    const [rows, people] = await Promise.all([
      lab.store.bench.tokens.find({}, { order: [['id', 'DESC']] }),
      lab.store.people.find({}, { columns: ['id', 'name'] }),
    ]);
    const names = new Map(people.map(({ id, name }) => [id, name]));
    return rows.map(({ hash: _hash, windowAt: _at, windowCount: _count, personId, ...row }) => ({
      ...row,
      by: names.get(personId) ?? '',
    }));
  },
});

/**
 * Who a token speaks for: the one who made it, with its name. Counts the request.
 * @throws LabError without a valid token, without the scope, or above `MOST_A_MINUTE`.
 */
export async function actorOfToken(
  lab: Lab,
  authorization: string | null,
  scope: TokenScope,
): Promise<Actor & { tokenId: number }> {
  const token = /^Bearer (\S+)$/.exec(authorization ?? '')?.[1];
  const row = token ? await lab.store.bench.tokens.one({ hash: hashOf(token) }) : null;
  if (!row || row.revokedAt)
    throw new LabError(
      'notSignedIn',
      'Expected a valid token: Authorization: Bearer dusk_…; an admin makes one under Lab.',
    );
  if (!row.scopes.includes(scope))
    throw new LabError(
      'notAllowed',
      `This token has the scope ${row.scopes.join(', ')}; ${scope} is needed.`,
    );
  const count = await lab.store.bench.countRequest(row.id, lab.now());
  if (count > MOST_A_MINUTE)
    throw new LabError(
      'tooMany',
      `More than ${MOST_A_MINUTE} requests in a minute. Wait a little and try again.`,
    );
  const person = await lab.store.people.one({ id: row.personId });
  if (!person?.active)
    throw new LabError('notSignedIn', 'The person who made this token is no longer active.');
  return {
    id: person.id,
    name: `${person.name} (token ${row.name})`,
    role: person.role,
    tokenId: row.id,
  };
}
