'use client';

import type { DueStage } from '@dusk-tally/lab';
import type { DueCount } from '@dusk-tally/lab/today';
import { usePathname } from 'next/navigation';
import { useEffect, useState } from 'react';

export type DueCounts = Partial<Record<DueStage, DueCount>>;

/** Asked again so often while a page stands still and is looked at, ms. */
const EVERY_MS = 60_000;

/** Counts as the server has them now; undefined where it does not say. */
async function fetchCounts(signal: AbortSignal): Promise<DueCounts | undefined> {
  try {
    const response = await fetch('/api/due/counts', { signal });
    return response.ok ? ((await response.json()) as DueCounts) : undefined;
  } catch {
    return undefined;
  }
}

/** How much is due at each stage; asked again when the page changes. The last known stay meanwhile. */
export function useDueCounts(): DueCounts | undefined {
  const path = usePathname();
  const [counts, setCounts] = useState<DueCounts>();
  useEffect(() => {
    const left = new AbortController();
    const ask = async () => {
      if (document.hidden) return;
      const now = await fetchCounts(left.signal);
      if (now && !left.signal.aborted) setCounts(now);
    };
    void ask();
    const timer = setInterval(() => void ask(), EVERY_MS);
    return () => {
      left.abort();
      clearInterval(timer);
    };
  }, [path]);
  return counts;
}
