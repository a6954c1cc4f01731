'use client';

import { usePathname, useSearchParams } from 'next/navigation';
import { useCallback } from 'react';

/** Settings of a view kept in its address, changed at once and without asking the server. */
export function useAddress() {
  const path = usePathname();
  const query = useSearchParams();
  const hrefWith = useCallback(
    (changes: Record<string, string | null>): string => {
      const next = new URLSearchParams(query);
      for (const [name, value] of Object.entries(changes)) {
        if (value === null || value === '') next.delete(name);
        else next.set(name, value);
      }
      return next.size > 0 ? `${path}?${next}` : path;
    },
    [path, query],
  );
  /** `step` adds an entry to the browser's history, so that Back undoes it. */
  const set = useCallback(
    (changes: Record<string, string | null>, step = false): void => {
      const href = hrefWith(changes);
      if (step) window.history.pushState(null, '', href);
      else window.history.replaceState(null, '', href);
    },
    [hrefWith],
  );
  return { query, set, hrefWith };
}
