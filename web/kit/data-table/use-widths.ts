'use client';

import { useCallback, useState } from 'react';
import { usePerson } from '../person';

type Widths = Record<string, number>;

function stored(key: string): Widths {
  try {
    const read: unknown = JSON.parse(localStorage.getItem(key) ?? '{}');
    return typeof read === 'object' && read !== null
      ? Object.fromEntries(
          Object.entries(read).filter(
            (entry): entry is [string, number] =>
              typeof entry[1] === 'number' && entry[1] >= 48 && entry[1] <= 2000,
          ),
        )
      : {};
  } catch {
    return {};
  }
}

/** Widths of columns as this person left them on this machine. */
export function useWidths(
  table: string,
): [Widths, (next: Widths | ((before: Widths) => Widths)) => void] {
  const person = usePerson();
  const key = `dusk-widths:${person.id}:${table}`;
  const [widths, setWidths] = useState<Widths>(() =>
    typeof window === 'undefined' ? {} : stored(key),
  );
  const set = useCallback(
    (next: Widths | ((before: Widths) => Widths)) =>
      setWidths((before) => {
        const after = typeof next === 'function' ? next(before) : next;
        try {
          localStorage.setItem(key, JSON.stringify(after));
        } catch {
          // Where nothing can be kept, widths hold until the page is left.
        }
        return after;
      }),
    [key],
  );
  return [widths, set];
}
