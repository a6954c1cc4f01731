'use client';

import { useRouter } from 'next/navigation';
import { useRef, useState, useTransition } from 'react';
import { NotSent, orOffline } from '@/lib/or-offline';
import type { Outcome, Refusal } from '@/lib/outcome';
import { lookUpAct } from '@/lib/sent-act';

/** How acts are waited for, where not as usual. */
export interface Patience {
  /** An answer that takes longer is taken for lost, ms; only for acts that may be sent again. */
  ms: number;
  /** What is said then, and without a connection. */
  lost: string;
}

/** Said where there is no connection: nothing was sent. */
export const LOST = 'No connection. Nothing was sent or stored; try again once it is back.';
/** Said where no answer came, and the server says that nothing was stored. */
const NOT_DONE = 'The server could not do this. Nothing was stored; try again.';
/** Said where no answer came, and the server cannot be asked. */
const UNKNOWN =
  'The connection broke off, so it is not known yet whether this was stored. It is looked up when you try again; nothing is stored twice.';
const DONE_BEFORE =
  'What you sent before had been stored; this page shows it now. If you want more than that, press again.';

/** An act of which nobody knows yet whether it was stored. */
interface Open {
  key: string;
  done: (data: unknown) => void;
}

/** How an act ended for who pressed. */
type Ended =
  | { what: 'data'; data: unknown; isEarlier: boolean }
  | { what: 'refusal'; refusal: Refusal }
  | { what: 'problem'; says: string };

/**
 * Runs acts one at a time: busy while one is under way, its refusal in words. Every press has a key;
 * where its answer is lost the server is asked what became of it, so that nothing is stored twice
 * and nothing false is said. The page made new comes with the answer of an act (`lib/run-act`); a
 * question leaves it as it is.
 */
export function useAct(patience?: Patience) {
  const [pending, startTransition] = useTransition();
  const [waiting, setWaiting] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const router = useRouter();
  const inFlight = useRef(false);
  const open = useRef<Open | null>(null);
  const once = async <T>(
    work: (key: string) => Promise<Outcome<T>>,
    done: (data: unknown) => void,
  ): Promise<Ended> => {
    const { current: before } = open;
    if (before) {
      const found = await lookUpAct(before.key);
      if (found.state === 'unknown') return { what: 'problem', says: UNKNOWN };
      open.current = null;
      if (found.state === 'done') {
        before.done(found.result);
        return { what: 'problem', says: DONE_BEFORE };
      }
    }
    const key = crypto.randomUUID();
    try {
      const outcome = await orOffline(() => work(key), patience?.ms);
      return outcome.ok
        ? { what: 'data', data: outcome.data, isEarlier: false }
        : { what: 'refusal', refusal: outcome };
    } catch (error) {
      if (error instanceof NotSent) return { what: 'problem', says: patience?.lost ?? LOST };
      const found = await lookUpAct(key);
      if (found.state === 'done') return { what: 'data', data: found.result, isEarlier: true };
      if (found.state === 'none') return { what: 'problem', says: patience?.lost ?? NOT_DONE };
      open.current = { key, done };
      return { what: 'problem', says: UNKNOWN };
    }
  };
  /** @param refused takes a refusal that belongs to a field; false leaves it to the form as a whole. */
  const run = <T>(
    work: (key: string) => Promise<Outcome<T>>,
    then?: (data: T) => void,
    refused?: (refusal: Refusal) => boolean,
  ) => {
    // A second press of the same moment is the first one.
    if (inFlight.current) return;
    inFlight.current = true;
    const done = (data: unknown) => {
      then?.(data as T);
      router.refresh();
    };
    const act = async () => {
      try {
        const ended = await once(work, done);
        if (ended.what === 'problem') setProblem(ended.says);
        else if (ended.what === 'refusal')
          setProblem(refused?.(ended.refusal) ? null : ended.refusal.message);
        else {
          setProblem(null);
          if (ended.isEarlier) done(ended.data);
          else then?.(ended.data as T);
        }
      } finally {
        inFlight.current = false;
      }
    };
    if (!patience) return startTransition(act);
    // Not a transition: one that waits for a lost answer would keep the button busy for good.
    setWaiting(true);
    void act().finally(() => setWaiting(false));
  };
  return { run, busy: pending || waiting, problem, setProblem };
}
