import { z } from 'zod';
import { question } from './procedure';

/** A field as it was and as it became. */
export interface ChangedField {
  name: string;
  before: unknown;
  after: unknown;
}

/** Something that was done to a thing, as it is told. */
export interface HistoryEntry {
  id: number;
  at: Date;
  person: string;
  act: string;
  reason: string | null;
  changes: ChangedField[];
}

const fieldsOf = (value: unknown): Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value)
    ? (value as Record<string, unknown>)
    : {};

/** Fields that differ; what only stands on one side is told too. */
export function changedFields(before: unknown, after: unknown): ChangedField[] {
  const [was, is] = [fieldsOf(before), fieldsOf(after)];
  return [...new Set([...Object.keys(was), ...Object.keys(is)])]
    .filter((name) => name !== 'reason' && name !== 'version')
    .filter((name) => JSON.stringify(was[name] ?? null) !== JSON.stringify(is[name] ?? null))
    .map((name) => ({ name, before: was[name] ?? null, after: is[name] ?? null }));
}

/** So much of a history is told, newest first. */
const MOST_ENTRIES = 100;

/** What was done to a thing: by whom, when, what changed by it, and why. */
export const historyOf = question({
  role: 'technician',
  input: z.object({
    subjectType: z.enum(['lot', 'supplier', 'cell model', 'instrument', 'channel', 'cell', 'lab']),
    subjectId: z.string().max(40),
  }),
  run: async (lab, where): Promise<HistoryEntry[]> => {
    const rows = await lab.store.auditEntries.find(where, {
      order: [['id', 'DESC']],
      limit: MOST_ENTRIES,
    });
    return rows.map(({ id, at, personName, act, before, after }) => {
      const { reason } = fieldsOf(after);
      return {
        id,
        at,
        person: personName,
        act,
        reason: typeof reason === 'string' ? reason : null,
        changes: before === null ? [] : changedFields(before, after),
      };
    });
  },
});
