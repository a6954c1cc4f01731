import { nameWords } from '@dusk-tally/lab/inputs/words';
import type { HistoryEntry } from '@dusk-tally/lab';
import { Fold } from './fold';
import { LabMoment } from './lab-time';

function shown(value: unknown): string {
  if (value === null || value === undefined || value === '') return 'nothing';
  if (Array.isArray(value)) return value.map(shown).join(', ');
  if (typeof value === 'object')
    return Object.entries(value)
      .map(([name, own]) => `${nameWords(name)} ${shown(own)}`)
      .join(', ');
  return String(value as string | number | boolean);
}

/** What was done to a thing: who, when, what changed by it, and why. */
export function History({
  entries,
  title = 'History',
}: {
  entries: readonly HistoryEntry[];
  title?: string;
}) {
  if (entries.length === 0) return null;
  return (
    <Fold title={`${title} (${entries.length})`}>
      <ul className="space-y-1.5 py-1 text-[0.9rem]">
        {entries.map(({ id, at, person, act, reason, changes }) => (
          <li key={id}>
            <span className="text-quiet">
              <LabMoment at={at} />, {person}:
            </span>{' '}
            {act}
            {changes.length > 0 &&
              `: ${changes.map(({ name, before, after }) => `${nameWords(name)} ${shown(before)} → ${shown(after)}`).join('; ')}`}
            {reason && <span className="text-quiet">, because: {reason}</span>}
          </li>
        ))}
      </ul>
    </Fold>
  );
}
