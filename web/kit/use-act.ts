'use client';

import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import { orOffline } from '@/lib/or-offline';
import type { Outcome } from '@/lib/outcome';

/** Runs acts one at a time: busy while one is under way, its refusal in words, the page made new after. */
export function useAct() {
  const router = useRouter();
  const [busy, startTransition] = useTransition();
  const [problem, setProblem] = useState<string | null>(null);
  const run = <T>(work: () => Promise<Outcome<T>>, then?: (data: T) => void) => {
    startTransition(async () => {
      try {
        const outcome = await orOffline(work);
        setProblem(outcome.ok ? null : outcome.message);
        if (!outcome.ok) return;
        then?.(outcome.data);
        router.refresh();
      } catch {
        setProblem(
          'No connection, or the server could not do this. Nothing was stored; try again.',
        );
      }
    });
  };
  return { run, busy, problem, setProblem };
}
