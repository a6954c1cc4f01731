'use client';

import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import { orOffline } from '@/lib/or-offline';
import type { Outcome, Refusal } from '@/lib/outcome';

/** Runs acts one at a time: busy while one is under way, its refusal in words, the page made new after. */
export function useAct() {
  const router = useRouter();
  const [busy, startTransition] = useTransition();
  const [problem, setProblem] = useState<string | null>(null);
  /** @param refused takes a refusal that belongs to a field; false leaves it to the form as a whole. */
  const run = <T>(
    work: () => Promise<Outcome<T>>,
    then?: (data: T) => void,
    refused?: (refusal: Refusal) => boolean,
  ) => {
    startTransition(async () => {
      try {
        const outcome = await orOffline(work);
        if (!outcome.ok) {
          setProblem(refused?.(outcome) ? null : outcome.message);
          return;
        }
        setProblem(null);
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
