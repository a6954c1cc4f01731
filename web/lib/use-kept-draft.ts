'use client';

import { useCallback, useState, useSyncExternalStore } from 'react';
import { usePerson } from '@/kit/person';
import { keep, parsed, readKept } from './browser-store';

const nothing = () => () => undefined;

/** What stands in the browser under a key, as text; null before the page is alive. */
const useStored = (key: string): string | null =>
  useSyncExternalStore(
    nothing,
    () => localStorage.getItem(key),
    () => null,
  );

/**
 * A form’s fields, kept in this browser for the person who typed them until they are stored: a
 * reload, Back or a closed lid loses nothing.
 * @param first the fields of a form nobody has touched.
 */
export function useKeptDraft<Draft extends object>(
  what: string,
  first: Draft,
): [Draft, (patch: Partial<Draft>) => void, () => void] {
  const { id } = usePerson();
  const key = `dusk-draft:${id}:${what}`;
  const stored = useStored(key);
  const [typed, setTyped] = useState<Draft | null>(null);
  const draft = typed ?? { ...first, ...fieldsOf<Draft>(parsed(stored)) };
  const set = useCallback(
    (patch: Partial<Draft>) =>
      setTyped((before) => {
        const next = {
          ...(before ?? { ...first, ...fieldsOf<Draft>(readKept(key)) }),
          ...patch,
        };
        keep(key, next);
        return next;
      }),
    // The first fields are the same as long as the form stands.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [key],
  );
  const clear = useCallback(() => void keep(key, null), [key]);
  return [draft, set, clear];
}

const fieldsOf = <Draft extends object>(kept: unknown): Partial<Draft> =>
  typeof kept === 'object' && kept !== null ? (kept as Partial<Draft>) : {};
