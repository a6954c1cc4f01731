'use client';

import { useRouter } from 'next/navigation';
import { useCallback, useEffect, useRef } from 'react';

/** Renews the page once things have been quiet for a moment, and while they go on at least this often, ms. */
const QUIET_MS = 500;
const AT_LEAST_MS = 4000;

/** Renews the page behind a run of entries: not after each of them, which a scanner would outrun. */
export function useCalmRefresh(): () => void {
  const router = useRouter();
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  const since = useRef<number | null>(null);
  useEffect(
    () => () => {
      if (timer.current) clearTimeout(timer.current);
    },
    [],
  );
  return useCallback(() => {
    const now = Date.now();
    since.current ??= now;
    if (timer.current) clearTimeout(timer.current);
    const wait = Math.max(0, Math.min(QUIET_MS, since.current + AT_LEAST_MS - now));
    timer.current = setTimeout(() => {
      since.current = null;
      router.refresh();
    }, wait);
  }, [router]);
}
