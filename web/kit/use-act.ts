'use client';

import { useState, useTransition } from 'react';
import { orOffline } from '@/lib/or-offline';
import type { Outcome, Refusal } from '@/lib/outcome';

/** How acts are waited for, where not as usual. */
export interface Patience {
  /** An answer that takes longer is taken for lost, ms; only for acts that may be sent again. */
  ms: number;
  /** What is said then, and without a connection. */
  lost: string;
}

/** Said where an act could not be done for want of a connection. */
export const LOST =
  'No connection, or the server could not do this. Nothing was stored; try again.';

/**
 * Runs acts one at a time: busy while one is under way, its refusal in words. The page made new
 * comes with the answer of an act (`lib/run-act`); a question leaves it as it is.
 */
export function useAct(patience?: Patience) {
  const [pending, startTransition] = useTransition();
  const [waiting, setWaiting] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  /** @param refused takes a refusal that belongs to a field; false leaves it to the form as a whole. */
  const run = <T>(
    work: () => Promise<Outcome<T>>,
    then?: (data: T) => void,
    refused?: (refusal: Refusal) => boolean,
  ) => {
    const act = async () => {
      try {
        const outcome = await orOffline(work, patience?.ms);
        if (!outcome.ok) {
          setProblem(refused?.(outcome) ? null : outcome.message);
          return;
        }
        setProblem(null);
        then?.(outcome.data);
      } catch {
        setProblem(patience?.lost ?? LOST);
      }
    };
    if (!patience) return startTransition(act);
    // Not a transition: one that waits for a lost answer would keep the button busy for good.
    setWaiting(true);
    void act().finally(() => setWaiting(false));
  };
  return { run, busy: pending || waiting, problem, setProblem };
}
