'use client';

import { usePathname } from 'next/navigation';
import { useCallback, useEffect, useRef, useState } from 'react';
import { usePerson } from '@/kit/person';
import { HELD_CHANGED, heldKey, keepHeld, readHeld } from './held-entries';

export type OutboxState =
  | { kind: 'kept' }
  | { kind: 'sending'; count: number }
  | { kind: 'waiting'; count: number; message: string };

interface Reply {
  ok: boolean;
  code?: string;
  message?: string;
  data?: unknown;
  /** What stands there, where somebody else was faster. */
  current?: unknown;
}

interface QueueSettings<T> {
  /** What it is, with its lot: it waits in the browser under this and the person’s number. */
  what: string;
  url: string;
  /** Chooses what goes in the next request, and its body. */
  pack: (pending: readonly T[]) => { batch: readonly T[]; body: unknown };
  /** What the server made of a batch. */
  onReply?: (batch: readonly T[], data: unknown) => void;
  /**
   * An entry the server will never take, with its reason; it leaves the queue and lets the others
   * pass.
   */
  onRefused: (entry: T, message: string, current?: unknown) => void;
}

const RETRY_MS = 4000;
const NOT_KEPT = 'This browser has no room to keep it: leave this page open.';
/** Sent no more by itself until something changes: this machine is signed out, or another’s. */
const NOT_OURS = 401;
/** The server understood and said no; the same again will not help. */
const isFinal = (status: number): boolean => [403, 404, 409, 422].includes(status);

/**
 * Entries wait here, in the browser’s own storage, until the server has confirmed them; a
 * reload, a closed lid or a dropped connection loses nothing and, since each carries its own
 * key, doubles nothing.
 */
export function useSendQueue<T extends { clientKey: string }>(settings: QueueSettings<T>) {
  const { what, url } = settings;
  const person = usePerson();
  const place = usePathname();
  const storageKey = heldKey(person.id, what);
  const [state, setState] = useState<OutboxState>({ kind: 'kept' });
  const pending = useRef<T[]>([]);
  /** Keys of all that was ever here: what other pages of the same person hold is not touched. */
  const own = useRef(new Set<string>());
  const isKept = useRef(true);
  const sending = useRef(false);
  const apart = useRef(false);
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  const flushRef = useRef<() => void>(() => undefined);
  const latest = useRef(settings);
  useEffect(() => {
    latest.current = settings;
  });

  const persist = useCallback(() => {
    for (const { clientKey } of pending.current) own.current.add(clientKey);
    isKept.current = keepHeld(storageKey, { place, entries: pending.current }, own.current);
    window.dispatchEvent(new Event(HELD_CHANGED));
  }, [storageKey, place]);

  const flush = useCallback(async () => {
    if (sending.current || pending.current.length === 0) return;
    sending.current = true;
    const packed = latest.current.pack(pending.current);
    // After a refusal one by one, so that what is wrong with one keeps none of the others back.
    const { batch, body } = apart.current
      ? latest.current.pack(pending.current.slice(0, 1))
      : packed;
    const leave = () => {
      const done = new Set(batch.map((entry) => entry.clientKey));
      pending.current = pending.current.filter((entry) => !done.has(entry.clientKey));
      if (pending.current.length === 0) apart.current = false;
      persist();
    };
    setState({ kind: 'sending', count: pending.current.length });
    let problem = '';
    try {
      const response = await fetch(url, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify(body),
      });
      const reply = (await response.json()) as Reply;
      const message = reply.message ?? 'The server did not take it.';
      if (reply.ok) {
        leave();
        latest.current.onReply?.(batch, reply.data);
      } else if (!isFinal(response.status)) {
        problem = response.status === NOT_OURS ? `${message} It waits for you here.` : message;
      } else if (batch.length > 1) apart.current = true;
      else {
        leave();
        latest.current.onRefused(batch[0]!, message, reply.current);
      }
    } catch {
      problem = 'No connection.';
    }
    sending.current = false;
    if (problem) {
      const message = isKept.current ? problem : `${problem} ${NOT_KEPT}`;
      setState({ kind: 'waiting', count: pending.current.length, message });
      timer.current = setTimeout(() => flushRef.current(), RETRY_MS);
    } else if (pending.current.length > 0) flushRef.current();
    else setState({ kind: 'kept' });
  }, [url, persist]);

  useEffect(() => {
    flushRef.current = () => void flush();
  }, [flush]);

  /** What waited from before a reload; also starts sending it. */
  const restore = useCallback((): T[] => {
    pending.current = (readHeld(storageKey)?.entries as T[] | undefined) ?? [];
    for (const { clientKey } of pending.current) own.current.add(clientKey);
    void flush();
    return [...pending.current];
  }, [flush, storageKey]);

  useEffect(() => {
    const again = () => void flush();
    window.addEventListener('online', again);
    return () => {
      window.removeEventListener('online', again);
      if (timer.current) clearTimeout(timer.current);
    };
  }, [flush]);

  const push = useCallback(
    (entries: T[]) => {
      pending.current.push(...entries);
      persist();
      void flush();
    },
    [flush, persist],
  );

  /** Changes what waits still, such as what an entry builds on after another was refused. */
  const amend = useCallback(
    (change: (entry: T) => T) => {
      pending.current = pending.current.map(change);
      persist();
    },
    [persist],
  );

  return { state, push, restore, amend };
}
