'use client';

import { useMemo, useSyncExternalStore } from 'react';
import { usePerson } from '@/kit/person';
import { type Held, HELD_CHANGED, heldOf } from './held-entries';

function subscribe(changed: () => void): () => void {
  window.addEventListener(HELD_CHANGED, changed);
  window.addEventListener('storage', changed);
  return () => {
    window.removeEventListener(HELD_CHANGED, changed);
    window.removeEventListener('storage', changed);
  };
}

/** What this person typed in this browser and is not stored yet, by page. */
export function useHeld(): readonly { place: string; count: number }[] {
  const { id } = usePerson();
  // Text compares by value: the same list again is no change.
  const text = useSyncExternalStore(
    subscribe,
    () =>
      JSON.stringify(
        heldOf(id).map(({ place, entries }: Held) => ({ place, count: entries.length })),
      ),
    () => '[]',
  );
  return useMemo(() => JSON.parse(text) as { place: string; count: number }[], [text]);
}
