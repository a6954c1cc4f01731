'use client';

import { type PointerEvent, useEffect, useState } from 'react';
import { say } from './say';

/** What fetches the parts of the pages seen so far that are not there yet. */
const missing = new Set<() => void>();
const atPress = () => {
  for (const fetchIt of missing) fetchIt();
};

/** Fetches at a press anywhere on the page: then a part is there when it is wanted, also without a connection. */
function fetchAtPress(fetchIt: () => void): void {
  if (typeof window === 'undefined') return;
  missing.add(fetchIt);
  for (const kind of ['pointerdown', 'keydown'] as const)
    window.addEventListener(kind, atPress, { capture: true, passive: true });
}

const LOST =
  'What was asked for did not come: no connection, or the app was renewed meanwhile. Press again, or load the page again.';

/**
 * Parts of the interface that come with their first use, not with the page.
 * @param load gives them; asked again after it failed.
 */
export function onDemand<Parts>(load: () => Promise<Parts>) {
  let loaded: Parts | null = null;
  let coming: Promise<Parts> | null = null;
  const come = (): Promise<Parts> => {
    coming ??= load().then(
      (parts) => {
        missing.delete(fetchIt);
        return (loaded = parts);
      },
      (reason: unknown) => {
        coming = null;
        throw reason;
      },
    );
    return coming;
  };
  const fetchIt = () => void come().catch(() => undefined);
  fetchAtPress(fetchIt);
  /**
   * The parts once they were needed, null before.
   * @param lost is told where they do not come; without it nothing is said.
   */
  return function useParts(needed: boolean, lost?: () => void): Parts | null {
    const [parts, setParts] = useState<Parts | null>(null);
    // What is there already opens at once.
    if (needed && parts === null && loaded !== null) setParts(() => loaded);
    const isMissing = needed && parts === null;
    useEffect(() => {
      if (!isMissing) return;
      let isHere = true;
      come().then(
        (here) => isHere && setParts(() => here),
        () => {
          if (!isHere || !lost) return;
          say(LOST);
          lost();
        },
      );
      return () => void (isHere = false);
      // Asked once each time they are needed.
      // eslint-disable-next-line react-hooks/exhaustive-deps
    }, [isMissing]);
    return parts;
  };
}

/**
 * Asks for a list as the mouse goes down, as lists do: a page that moves before it goes up would lose
 * the click. The focus is left to the list; fingers and keys ask by their click.
 */
export const atMouseDown = (ask: () => void) => (event: PointerEvent) => {
  if (event.button !== 0 || event.ctrlKey || event.pointerType !== 'mouse') return;
  event.preventDefault();
  ask();
};
