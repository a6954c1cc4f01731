import type { Role, Transaction } from '@dusk-tally/store';
import type { z } from 'zod';
import { type AuditNote, writeAudit } from './audit';
import type { Change } from './changes';
import { LabError } from './errors';
import { type Actor, type Lab, labWithin, mayAct } from './lab';
import { doneOnce, underWayWhile } from './once';
import { isTooDeep, plainStrings } from './plain-strings';
import { refusalOf } from '../inputs';

/** What the body of an act gets. */
export interface Act<Input, Prepared> {
  lab: Lab;
  actor: Actor;
  input: Input;
  /** What `prepare` made before the transaction. */
  prepared: Prepared;
  transaction: Transaction;
  audit: (note: AuditNote) => Promise<void>;
  /** Says what this act changed: all that depends on it is made new before the act ends. */
  changed: (change: Change) => void;
}

interface Definition<Schema extends z.ZodType, Result, Prepared> {
  role: Role;
  input: Schema;
  /** Fields that are kept as they came, beside those that always are. */
  verbatim?: readonly string[];
  /** What comes of it is shown once and kept nowhere, such as a password. */
  isSecret?: boolean;
  /** Long computation, before the transaction and free of locks. */
  prepare?: (lab: Lab, input: z.output<Schema>, actor: Actor) => Promise<Prepared>;
  run: (act: Act<z.output<Schema>, Prepared>) => Promise<Result>;
  /** Once all of it is stored: what may take long, and is made again where it failed. */
  after?: (lab: Lab, result: Result) => Promise<void>;
}

/** One act of the work: input checked, role checked, one transaction, audit entry, result. */
export type Procedure<Input, Result> = ((
  lab: Lab,
  actor: Actor | null,
  input: Input,
  /** Key of the press it comes from: sent again with it, it is not done again. */
  key?: string,
) => Promise<Result>) & {
  /** What it takes, for forms and for tests of every schema. */
  schema: z.ZodType;
};

/** Evidence as it was written, and passwords, which are shown to nobody. */
const VERBATIM = ['offer', 'password', 'current', 'next'];

function checked<Schema extends z.ZodType>(
  schema: Schema,
  input: unknown,
  verbatim: readonly string[] = [],
): z.output<Schema> {
  if (isTooDeep(input))
    throw new LabError('invalid', 'Expected an input; found lists in lists without an end.');
  const result = schema.safeParse(plainStrings(input, [...VERBATIM, ...verbatim]));
  if (result.success) return result.data;
  const { message, field } = refusalOf(result.error, input);
  throw new LabError('invalid', message, { field });
}

/** Makes an act that changes something. */
export function procedure<Schema extends z.ZodType, Result, Prepared = undefined>(
  definition: Definition<Schema, Result, Prepared>,
): Procedure<z.input<Schema>, Result> {
  const once = async (
    lab: Lab,
    actor: Actor | null,
    input: z.input<Schema>,
    key?: string,
  ): Promise<Result> => {
    const who = requireRole(actor, definition.role);
    const data = checked(definition.input, input, definition.verbatim);
    const prepared = (await definition.prepare?.(lab, data, who)) as Prepared;
    const work = async (transaction: Transaction, bound: Lab): Promise<Result> => {
      const changes: Change[] = [];
      const result = await definition.run({
        lab: bound,
        actor: who,
        input: data,
        prepared,
        transaction,
        audit: (note) => writeAudit(bound, who, note, transaction),
        changed: (change) => void changes.push(change),
      });
      if (changes.length > 0) await bound.derive(changes, transaction);
      return result;
    };
    const result = await lab.store.transaction((transaction) => {
      const bound = labWithin(lab, transaction);
      if (key === undefined) return work(transaction, bound);
      const sent = { key, input, isSecret: definition.isSecret ?? false };
      return doneOnce(bound, who, sent, transaction, () => work(transaction, bound));
    });
    await definition.after?.(lab, result).catch((error: unknown) => console.error(error));
    return result;
  };
  const act: typeof once = (lab, actor, input, key) =>
    key === undefined
      ? once(lab, actor, input)
      : underWayWhile(key, () => once(lab, actor, input, key));
  return Object.assign(act, { schema: definition.input });
}

/** Makes a question: role checked, nothing changed. */
export function question<Schema extends z.ZodType, Result>(definition: {
  role: Role;
  input: Schema;
  run: (lab: Lab, input: z.output<Schema>, actor: Actor) => Promise<Result>;
}): Procedure<z.input<Schema>, Result> {
  const ask = async (lab: Lab, actor: Actor | null, input: z.input<Schema>): Promise<Result> => {
    const who = requireRole(actor, definition.role);
    const data = checked(definition.input, input);
    await requireLot(lab, data);
    return definition.run(lab, data, who);
  };
  return Object.assign(ask, { schema: definition.input });
}

/** A question about a lot that is not there is answered so, whichever it is. */
async function requireLot(lab: Lab, data: unknown): Promise<void> {
  if (typeof data !== 'object' || data === null || !('lotId' in data)) return;
  const { lotId } = data;
  if (typeof lotId === 'number' && (await lab.store.lots.count({ id: lotId })) === 0)
    throw new LabError('notFound', 'That lot is not here.');
}

function requireRole(actor: Actor | null, role: Role): Actor {
  if (!actor)
    throw new LabError(
      'notSignedIn',
      'You are signed out, or somebody else has signed in on this browser. Nothing was stored; sign in again.',
    );
  if (!mayAct(actor.role, role)) {
    throw new LabError(
      'notAllowed',
      `This needs the role ${role}; you are signed in as ${actor.role}.`,
    );
  }
  return actor;
}

/** Turns "no such row" into an error that names it. */
export function found<T>(row: T | null | undefined, what: string): T {
  if (row === null || row === undefined) throw new LabError('notFound', `${what} is not here.`);
  return row;
}

export { isDuplicate } from '@dusk-tally/store';
