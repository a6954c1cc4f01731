import { z } from 'zod';
import { type Actor, type Lab, LabError, writeAudit } from '../shared';
import { passwordFits } from './passwords';

/** Misses of one account from one place in a window, then the door is shut for that place. */
const MISSES_OF_ACCOUNT = 8;
/** Misses from one place, whatever account they try. */
const MISSES_FROM_PLACE = 40;
/** Misses of one account from places it never signed in from; its own places stay open. */
const MISSES_FROM_STRANGERS = 60;
const WINDOW_MS = 15 * 60 * 1000;

const credentials = z.object({
  email: z.string().trim().toLowerCase().max(190),
  password: z.string().min(1).max(200),
});

export interface SignedIn extends Actor {
  sessionEpoch: number;
  /** The password was made for one sign-in: it must be changed before anything else. */
  passwordIsOnce: boolean;
}

/** Too many misses: by whom they count, none can shut a person out from where they belong. */
async function refuseTooMany(lab: Lab, email: string, place: string): Promise<void> {
  const { signInFailures, signInPlaces } = lab.store;
  const at = { atLeast: new Date(lab.now().getTime() - WINDOW_MS) };
  const [here, ofPlace, ofAccount, known] = await Promise.all([
    signInFailures.count({ email, place, at }),
    signInFailures.count({ place, at }),
    signInFailures.count({ email, at }),
    signInPlaces.one({ email, place }),
  ]);
  // The attempt that is counted already stands in each number.
  const isTooMany =
    here > MISSES_OF_ACCOUNT ||
    (ofPlace > MISSES_FROM_PLACE && !known) ||
    (ofAccount > MISSES_FROM_STRANGERS && !known);
  if (isTooMany)
    throw new LabError(
      'tooMany',
      'Too many attempts for this address. Wait a quarter of an hour, then try again.',
    );
}

/**
 * Checks e-mail and password. The attempt is counted before it is checked, so that many at once count
 * as many, and is taken off the count where it fits.
 * @param place where it comes from, such as an IP address.
 */
export async function signIn(lab: Lab, input: unknown, place = ''): Promise<SignedIn> {
  const parsed = credentials.safeParse(input);
  if (!parsed.success) throw new LabError('invalid', 'Type an e-mail address and a password.');
  const { email, password } = parsed.data;
  const from = place.slice(0, 64);
  const { people, signInFailures, signInPlaces } = lab.store;
  const attempt = await signInFailures.insert({ email, place: from, at: lab.now() });
  try {
    await refuseTooMany(lab, email, from);
  } catch (error) {
    // A door that is shut is not kept shut by those who wait at it.
    await signInFailures.remove({ id: attempt.id });
    throw error;
  }
  const person = await people.one({ email });
  if (!(await passwordFits(person?.active ? person.passwordHash : null, password)))
    throw new LabError('notSignedIn', 'E-mail address and password do not fit together.');
  const { id, name, role, sessionEpoch, passwordIsOnce } = person!;
  const actor = { id, name, role };
  await lab.store.transaction(async (transaction) => {
    await signInFailures.remove({ id: attempt.id }, transaction);
    await signInPlaces.remove({ email, place: from }, transaction);
    await signInPlaces.insert({ email, place: from, at: lab.now() }, transaction);
    await writeAudit(
      lab,
      actor,
      { act: 'signed in', subjectType: 'person', subjectId: id },
      transaction,
    );
  });
  return { ...actor, sessionEpoch, passwordIsOnce };
}

/** The person behind a session, or null when it is no longer good. */
export async function personOfSession(
  lab: Lab,
  session: { id: number; sessionEpoch: number },
): Promise<(Actor & { passwordIsOnce: boolean }) | null> {
  const person = await lab.store.people.one({ id: session.id });
  if (!person?.active || person.sessionEpoch !== session.sessionEpoch) return null;
  const { id, name, role, passwordIsOnce } = person;
  return { id, name, role, passwordIsOnce };
}
