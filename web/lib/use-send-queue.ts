'use client';

import { useCallback, useEffect, useRef, useState } from 'react';

export type OutboxState =
  | { kind: 'kept' }
  | { kind: 'sending'; count: number }
  | { kind: 'waiting'; count: number; message: string };

interface Reply {
  ok: boolean;
  message?: string;
  data?: unknown;
}

interface QueueSettings<T> {
  /** Where it waits in the browser’s own storage. */
  storageKey: string;
  url: string;
  /** Chooses what goes in the next request, and its body. */
  pack: (pending: readonly T[]) => { batch: readonly T[]; body: unknown };
  /** What the server made of a batch. */
  onReply?: (batch: readonly T[], data: unknown) => void;
  /**
   * A batch the server will never take, with its reason; it leaves the queue. Without this it
   * waits and is sent again.
   */
  onRefused?: (batch: readonly T[], message: string) => void;
}

const RETRY_MS = 4000;
/** The server understood and said no; the same again will not help. */
const isFinal = (status: number): boolean => [403, 404, 409, 422].includes(status);

/**
 * Entries wait here, in the browser’s own storage, until the server has confirmed them; a
 * reload, a closed lid or a dropped connection loses nothing and, since each carries its own
 * key, doubles nothing.
 */
export function useSendQueue<T extends { clientKey: string }>(settings: QueueSettings<T>) {
  const { storageKey, url } = settings;
  const [state, setState] = useState<OutboxState>({ kind: 'kept' });
  const pending = useRef<T[]>([]);
  const sending = useRef(false);
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  const flushRef = useRef<() => void>(() => undefined);
  const latest = useRef(settings);
  useEffect(() => {
    latest.current = settings;
  });

  const persist = useCallback(() => {
    if (pending.current.length === 0) localStorage.removeItem(storageKey);
    else localStorage.setItem(storageKey, JSON.stringify(pending.current));
  }, [storageKey]);

  const flush = useCallback(async () => {
    if (sending.current || pending.current.length === 0) return;
    sending.current = true;
    const { batch, body } = latest.current.pack(pending.current);
    const leave = () => {
      const done = new Set(batch.map((entry) => entry.clientKey));
      pending.current = pending.current.filter((entry) => !done.has(entry.clientKey));
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
      } else if (latest.current.onRefused && isFinal(response.status)) {
        leave();
        latest.current.onRefused(batch, message);
      } else problem = message;
    } catch {
      problem = 'No connection.';
    }
    sending.current = false;
    if (problem) {
      setState({ kind: 'waiting', count: pending.current.length, message: problem });
      timer.current = setTimeout(() => flushRef.current(), RETRY_MS);
    } else if (pending.current.length > 0) flushRef.current();
    else setState({ kind: 'kept' });
  }, [url, persist]);

  useEffect(() => {
    flushRef.current = () => void flush();
  }, [flush]);

  /** What waited from before a reload; also starts sending it. */
  const restore = useCallback((): T[] => {
    try {
      pending.current = JSON.parse(localStorage.getItem(storageKey) ?? '[]') as T[];
    } catch {
      pending.current = [];
    }
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

  return { state, push, restore };
}
