import type { Role, Transaction } from '@dusk-tally/store';
import type { z } from 'zod';
import { type AuditNote, writeAudit } from './audit';
import type { Change } from './changes';
import { LabError } from './errors';
import { type Actor, type Lab, labWithin, mayAct } from './lab';

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
  /** Long computation, before the transaction and free of locks. */
  prepare?: (lab: Lab, input: z.output<Schema>, actor: Actor) => Promise<Prepared>;
  run: (act: Act<z.output<Schema>, Prepared>) => Promise<Result>;
}

/** One act of the work: input checked, role checked, one transaction, audit entry, result. */
export type Procedure<Input, Result> = (
  lab: Lab,
  actor: Actor | null,
  input: Input,
) => Promise<Result>;

function checked<Schema extends z.ZodType>(schema: Schema, input: unknown): z.output<Schema> {
  const result = schema.safeParse(input);
  if (result.success) return result.data;
  const issue = result.error.issues[0]!;
  const field = issue.path.join('.');
  throw new LabError('invalid', field ? `${field}: ${issue.message}` : issue.message, { field });
}

/** Makes an act that changes something. */
export function procedure<Schema extends z.ZodType, Result, Prepared = undefined>(
  definition: Definition<Schema, Result, Prepared>,
): Procedure<z.input<Schema>, Result> {
  return async (lab, actor, input) => {
    const who = requireRole(actor, definition.role);
    const data = checked(definition.input, input);
    const prepared = (await definition.prepare?.(lab, data, who)) as Prepared;
    return lab.store.transaction(async (transaction) => {
      const changes: Change[] = [];
      const bound = labWithin(lab, transaction);
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
    });
  };
}

/** Makes a question: role checked, nothing changed. */
export function question<Schema extends z.ZodType, Result>(definition: {
  role: Role;
  input: Schema;
  run: (lab: Lab, input: z.output<Schema>, actor: Actor) => Promise<Result>;
}): Procedure<z.input<Schema>, Result> {
  return async (lab, actor, input) => {
    const who = requireRole(actor, definition.role);
    return definition.run(lab, checked(definition.input, input), who);
  };
}

function requireRole(actor: Actor | null, role: Role): Actor {
  if (!actor) throw new LabError('notSignedIn', 'Sign in first.');
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
