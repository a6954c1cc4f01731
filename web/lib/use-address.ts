'use client';

import { usePathname, useSearchParams } from 'next/navigation';
import { useCallback, useState } from 'react';

/**
 * Settings of a view kept in its address, changed at once and without asking the server.
 *
 * The router tells of a changed address a moment later; until then `query` answers with what was
 * set, so that a box just ticked does not jump back under the pointer.
 */
export function useAddress() {
  const path = usePathname();
  const told = useSearchParams();
  const [ahead, setAhead] = useState<{ query: URLSearchParams; since: string } | null>(null);
  if (ahead !== null && caughtUp(told, ahead)) setAhead(null);
  const query = ahead?.query ?? told;

  const hrefWith = useCallback(
    (changes: Record<string, string | null>): string => hrefOf(path, changed(query, changes)),
    [path, query],
  );
  /** `step` adds an entry to the browser's history, so that Back undoes it. */
  const set = useCallback(
    (changes: Record<string, string | null>, step = false): void => {
      const next = changed(new URLSearchParams(window.location.search), changes);
      setAhead({ query: next, since: told.toString() });
      const href = hrefOf(path, next);
      if (step) window.history.pushState(null, '', href);
      else window.history.replaceState(null, '', href);
    },
    [path, told],
  );
  return { query, set, hrefWith };
}

/** True once the router tells of what was set, or of what the address became after it. */
function caughtUp(
  told: URLSearchParams,
  ahead: { query: URLSearchParams; since: string },
): boolean {
  const now = told.toString();
  if (now === ahead.query.toString()) return true;
  return now !== ahead.since && now === new URLSearchParams(window.location.search).toString();
}

function changed(from: URLSearchParams, changes: Record<string, string | null>): URLSearchParams {
  const next = new URLSearchParams(from);
  for (const [name, value] of Object.entries(changes)) {
    if (value === null || value === '') next.delete(name);
    else next.set(name, value);
  }
  return next;
}

const hrefOf = (path: string, query: URLSearchParams): string =>
  query.size > 0 ? `${path}?${query}` : path;
