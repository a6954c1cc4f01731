import 'server-only';
import type { Actor } from '@dusk-tally/lab';
import { personOfSession } from '@dusk-tally/lab/people';
import { getIronSession, type IronSession } from 'iron-session';
import { cookies, headers } from 'next/headers';
import { redirect } from 'next/navigation';
import { cache } from 'react';
import { lab } from './lab';
import { PERSON_HEADER } from './person-header-name';

interface SessionData {
  id?: number;
  sessionEpoch?: number;
}

/** The sealed cookie of this browser; `Secure` as soon as the app is behind TLS. */
export async function session(): Promise<IronSession<SessionData>> {
  const password = process.env.DUSK_SESSION_SECRET;
  if (!password) throw new Error('Expected DUSK_SESSION_SECRET in the environment.');
  const secure = (await headers()).get('x-forwarded-proto') === 'https';
  return getIronSession<SessionData>(await cookies(), {
    cookieName: 'dusk-tally',
    password,
    ttl: 12 * 3600,
    cookieOptions: { httpOnly: true, sameSite: 'lax', secure, path: '/' },
  });
}

/**
 * Who is signed in, also with a password made for one sign-in; null for nobody, and for whoever has
 * signed in on this browser since the page that asks was made for somebody else.
 */
export const accountActor = cache(
  async (): Promise<(Actor & { passwordIsOnce: boolean }) | null> => {
    const { id, sessionEpoch } = await session();
    const pageOf = (await headers()).get(PERSON_HEADER);
    if (id === undefined || sessionEpoch === undefined) return null;
    if (pageOf !== null && pageOf !== String(id)) return null;
    return personOfSession(lab(), { id, sessionEpoch });
  },
);

/** Who is signed in and may act, or null. */
export const actor = cache(async (): Promise<Actor | null> => {
  const who = await accountActor();
  return who && !who.passwordIsOnce ? { id: who.id, name: who.name, role: who.role } : null;
});

/** Who is signed in; others are sent to the sign-in page, or to choose a password of their own. */
export async function requireActor(): Promise<Actor> {
  const who = await actor();
  if (who) return who;
  return redirect((await accountActor()) ? '/account' : '/sign-in');
}
