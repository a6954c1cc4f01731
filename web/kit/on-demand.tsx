'use client';

import { useEffect, useState } from 'react';
import { say } from './say';

/** Fetches parts that were declared here and are not there yet. */
const declared = new Set<() => void>();

/** Fetches, at the first press on the page, what its buttons may need: then it is there when wanted, also without a connection. */
function fetchAtFirstPress(fetchIt: () => void): void {
  if (typeof window === 'undefined') return;
  if (declared.size === 0) {
    const onPress = () => {
      window.removeEventListener('pointerdown', onPress, true);
      window.removeEventListener('keydown', onPress, true);
      for (const each of declared) each();
    };
    window.addEventListener('pointerdown', onPress, true);
    window.addEventListener('keydown', onPress, true);
  }
  declared.add(fetchIt);
}

/**
 * Parts of the interface that come with their first use, not with the page.
 * @param load gives them; asked again after it failed.
 */
export function onDemand<Parts>(load: () => Promise<Parts>) {
  let loaded: Parts | null = null;
  let coming: Promise<Parts> | null = null;
  const come = (): Promise<Parts> => {
    coming ??= load().then(
      (parts) => (loaded = parts),
      (reason: unknown) => {
        coming = null;
        throw reason;
      },
    );
    return coming;
  };
  fetchAtFirstPress(() => void come().catch(() => undefined));
  /**
   * The parts once they were needed, null before.
   * @param lost is told where they do not come; without it nothing is said.
   */
  return function useParts(needed: boolean, lost?: () => void): Parts | null {
    const [parts, setParts] = useState<Parts | null>(null);
    // What is there already opens at once.
    if (needed && parts === null && loaded !== null) setParts(() => loaded);
    const missing = needed && parts === null;
    useEffect(() => {
      if (!missing) return;
      let isHere = true;
      come().then(
        (come) => isHere && setParts(() => come),
        () => {
          if (!isHere || !lost) return;
          say('No connection: what was asked for did not come. Press again once it is back.');
          lost();
        },
      );
      return () => void (isHere = false);
      // Asked once each time they are needed.
      // eslint-disable-next-line react-hooks/exhaustive-deps
    }, [missing]);
    return parts;
  };
}
