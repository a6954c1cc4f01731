'use client';

import { useCallback, useEffect, useRef, useState } from 'react';

/** A typed reading on its way to the store. */
export interface PendingReading {
  cellId: number;
  kind: 'acResistance' | 'openCircuitVoltage' | 'capacity';
  /** Null takes an earlier reading back. */
  value: number | null;
  decimals: number;
  clientKey: string;
  keptDespite: string | null;
  instrumentId: number | null;
}

export type OutboxState =
  | { kind: 'kept' }
  | { kind: 'sending'; count: number }
  | { kind: 'held'; count: number; message: string };

const RETRY_MS = 4000;

/**
 * Readings wait here, in the browser's own storage, until the server has confirmed them; a
 * reload, a closed lid or a dropped connection loses nothing and doubles nothing.
 */
export function useOutbox(lotId: number) {
  const storageKey = `dusk-outbox-${lotId}`;
  const [state, setState] = useState<OutboxState>({ kind: 'kept' });
  const pending = useRef<PendingReading[]>([]);
  const sending = useRef(false);
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  const flushRef = useRef<() => void>(() => undefined);

  const persist = useCallback(() => {
    if (pending.current.length === 0) localStorage.removeItem(storageKey);
    else localStorage.setItem(storageKey, JSON.stringify(pending.current));
  }, [storageKey]);

  const flush = useCallback(async () => {
    if (sending.current || pending.current.length === 0) return;
    sending.current = true;
    const instrumentId = pending.current[0]!.instrumentId;
    const batch = pending.current
      .filter((reading) => reading.instrumentId === instrumentId)
      .slice(0, 500);
    setState({ kind: 'sending', count: pending.current.length });
    let message = '';
    try {
      const readings = batch.map(({ instrumentId: _instrument, ...reading }) => reading);
      const response = await fetch(`/api/lots/${lotId}/readings`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ instrumentId, readings }),
      });
      const body = (await response.json()) as { ok: boolean; message?: string };
      if (body.ok) {
        const done = new Set(batch.map((reading) => reading.clientKey));
        pending.current = pending.current.filter((reading) => !done.has(reading.clientKey));
        persist();
      } else message = body.message ?? 'The server did not take them.';
    } catch {
      message = 'No connection.';
    }
    sending.current = false;
    if (message) {
      setState({ kind: 'held', count: pending.current.length, message });
      timer.current = setTimeout(() => flushRef.current(), RETRY_MS);
    } else if (pending.current.length > 0) flushRef.current();
    else setState({ kind: 'kept' });
  }, [lotId, persist]);

  useEffect(() => {
    flushRef.current = () => void flush();
  }, [flush]);

  /** What was held from before a reload; also starts sending it. */
  const restore = useCallback((): PendingReading[] => {
    try {
      pending.current = JSON.parse(localStorage.getItem(storageKey) ?? '[]') as PendingReading[];
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
    (readings: PendingReading[]) => {
      pending.current.push(...readings);
      persist();
      void flush();
    },
    [flush, persist],
  );

  return { state, push, restore };
}
