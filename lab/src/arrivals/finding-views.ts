import { findingKind } from '@dusk-tally/core/arrivals';
import { z } from 'zod';
import { type Lab, question } from '../shared';
import { findingsOfEntries } from './refresh-arrivals';

/** A finding as it is told. */
export interface FindingView {
  id: number;
  cellId: number;
  code: string;
  words: string;
  severity: 'stop' | 'serious' | 'note';
  state: 'open' | 'madeGood' | 'withdrawn';
  note: string | null;
  person: string;
  at: Date;
  settled: { by: string; at: Date; note: string | null; before: string | null } | null;
}

/** Findings of a lot, or of some of its cells, newest first. */
export async function findingViews(
  lab: Lab,
  where: { lotId: number; cellId?: number },
): Promise<FindingView[]> {
  const [entries, people] = await Promise.all([
    lab.store.arrivals.inspections.find(where, { order: [['id', 'ASC']] }),
    lab.store.people.find({}, { columns: ['id', 'name'] }),
  ]);
  const name = new Map(people.map((person) => [person.id, person.name]));
  return findingsOfEntries(entries)
    .map(({ id, code, severity, state, entry, settledBy }) => ({
      id,
      cellId: entry.cellId,
      code,
      words: findingKind(code).words,
      severity,
      state,
      note: entry.note,
      person: name.get(entry.personId) ?? '',
      at: entry.at,
      settled: settledBy
        ? {
            by: name.get(settledBy.personId) ?? '',
            at: settledBy.at,
            note: settledBy.note,
            before: settledBy.before,
          }
        : null,
    }))
    .reverse();
}

export const lotFindings = question({
  role: 'technician',
  input: z.object({ lotId: z.int() }),
  run: (lab, { lotId }) => findingViews(lab, { lotId }),
});
