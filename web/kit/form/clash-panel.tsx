'use client';

import { nameWords } from '@dusk-tally/lab/inputs/words';
import { useState } from 'react';
import { OneOf } from '../one-of';
import type { Clash } from './conflict';

/** A field’s value in words; of a group of fields those that are filled in. */
function shown(value: unknown): string {
  if (value === null || value === undefined || value === '') return 'nothing';
  if (Array.isArray(value)) return value.map(shown).join(', ');
  if (typeof value === 'object')
    return (
      Object.entries(value)
        .map(([name, own]) => [name, shown(own)] as const)
        .filter(([, own]) => own !== 'nothing')
        .map(([name, own]) => (name === 'value' ? own : `${nameWords(name)} ${own}`))
        .join(', ') || 'nothing'
    );
  return String(value as string | number | boolean);
}

/** What two people both changed: both versions of each field, to be chosen between. */
export function ClashPanel({
  clashes,
  names,
  onSettle,
}: {
  clashes: readonly Clash[];
  names: Readonly<Record<string, string>>;
  onSettle: (name: string, take: 'mine' | 'theirs') => void;
}) {
  const [taken, setTaken] = useState<Readonly<Record<string, 'mine' | 'theirs'>>>({});
  return (
    <section aria-label="Both versions" className="rounded-sm border border-doubt bg-wash p-3">
      <p className="font-medium">
        You both changed {clashes.length === 1 ? 'this' : 'these'}. Yours{' '}
        {clashes.length === 1 ? 'is' : 'are'} kept unless you take theirs.
      </p>
      <div className="mt-2 space-y-2">
        {clashes.map(({ name, theirs, mine }) => (
          <div key={name}>
            <p className="text-quiet">{names[name] ?? name}</p>
            <OneOf
              label={`Which of the two: ${names[name] ?? name}`}
              value={taken[name] ?? 'mine'}
              onValue={(take) => {
                setTaken({ ...taken, [name]: take });
                onSettle(name, take);
              }}
              options={[
                ['theirs', `Stored meanwhile: ${shown(theirs)}`],
                ['mine', `Typed by you: ${shown(mine)}`],
              ]}
            />
          </div>
        ))}
      </div>
    </section>
  );
}
