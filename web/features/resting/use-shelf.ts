'use client';

import { impossibleRest, restDoubt } from '@dusk-tally/core/resting';
import { parseClearQuantity, parseQuantity } from '@dusk-tally/core/units';
import type { ShelfLine } from '@dusk-tally/lab/resting';
import { useEffect, useState } from 'react';
import { useCalmRefresh } from '@/lib/use-calm-refresh';
import { useKeptDraft } from '@/lib/use-kept-draft';
import { useSendQueue } from '@/lib/use-send-queue';

interface HeldReading {
  clientKey: string;
  lotId: number;
  instrumentId: number | null;
  cellId: number;
  value: number;
  decimals: number;
  temperatureC: number | null;
  keptDespite: string | null;
  /** When it was read: it may wait for a connection. */
  readAt: string;
}

/** What is said of a field: a question, or what is wrong. */
export interface ShelfNote {
  text: string;
  isQuestion: boolean;
  /** What may have been meant, V. */
  offer?: number;
  /** When it was read: an answer later is of then. */
  readAt: string;
}

/** What is typed and not taken yet, and what is said of it, by cell. */
interface Open {
  typed: Readonly<Record<number, string>>;
  notes: Readonly<Record<number, ShelfNote>>;
}

const NONE: Open = { typed: {}, notes: {} };

const without = <T>(all: Readonly<Record<number, T>>, cellId: number) =>
  Object.fromEntries(Object.entries(all).filter(([id]) => Number(id) !== cellId));

/** Readings of the shelf: typed, asked about where they are odd, sent, held without a connection; what is asked about stays until it is answered. */
export function useShelf(instrumentId: number | null, temperatureC: number | null) {
  const refresh = useCalmRefresh();
  const [{ typed, notes }, setOpen] = useKeptDraft('shelf', NONE);
  const [stored, setStored] = useState<Readonly<Record<number, number>>>({});
  const note = (cellId: number, said: ShelfNote | null) =>
    setOpen({ notes: said ? { ...notes, [cellId]: said } : without(notes, cellId) });
  const { state, push, restore } = useSendQueue<HeldReading>({
    what: 'shelf',
    url: '/api/shelf',
    pack: ([first]) => {
      const { lotId, instrumentId: meter, ...reading } = first!;
      return {
        batch: [first!],
        body: {
          lotId,
          instrumentId: meter,
          readings: [{ ...reading, kind: 'openCircuitVoltage', purpose: 'rest' }],
        },
      };
    },
    onReply: () => refresh(),
    onRefused: ({ cellId, value, decimals, readAt }, message) => {
      setStored((all) => without(all, cellId));
      setOpen({
        typed: { ...typed, [cellId]: value.toFixed(decimals) },
        notes: { ...notes, [cellId]: { text: message, isQuestion: false, readAt } },
      });
    },
  });
  useEffect(() => {
    restore();
  }, [restore]);

  const store = (
    { cellId, lot, endedAt }: ShelfLine,
    { value, decimals }: { value: number; decimals: number },
    { doubt, readAt }: { doubt: string | null; readAt: string },
  ) => {
    setOpen({ typed: without(typed, cellId), notes: without(notes, cellId) });
    setStored({ ...stored, [cellId]: value });
    push([
      {
        clientKey: crypto.randomUUID(),
        lotId: lot.id,
        instrumentId,
        cellId,
        value,
        decimals,
        temperatureC,
        keptDespite: doubt,
        // What ended a rest is typed again where it stands: a moment after it, so that it mends it.
        readAt: endedAt ? new Date(new Date(endedAt).getTime() + 1000).toISOString() : readAt,
      },
    ]);
  };

  /**
   * Takes what is typed for a cell; what is asked about stays in its field.
   * @returns whether the next one is read now: only an empty field keeps the place.
   */
  const take = (line: ShelfLine): boolean => {
    const { cellId, expectedV, detail, endedAt } = line;
    const text = (typed[cellId] ?? '').trim();
    if (text === '') return false;
    const asked = notes[cellId];
    const readAt = asked?.readAt ?? new Date().toISOString();
    const say = (said: Omit<ShelfNote, 'readAt'>) => {
      note(cellId, { ...said, readAt });
      return true;
    };
    const clear = parseClearQuantity(text, 'voltageV');
    if (!clear.ok) {
      const parsed = parseQuantity(text, 'voltageV');
      return say({
        text: clear.message,
        isQuestion: false,
        ...(parsed.ok && parsed.otherwise !== undefined ? { offer: parsed.otherwise } : {}),
      });
    }
    const impossible = impossibleRest(clear.value, expectedV);
    if (impossible !== null) return say({ text: impossible, isQuestion: false });
    const lastV = endedAt ? null : (stored[cellId] ?? detail.voltageV);
    const doubt = restDoubt(clear.value, expectedV, lastV);
    if (doubt !== null && !(asked?.isQuestion && asked.text === doubt))
      return say({ text: doubt, isQuestion: true });
    store(line, clear, { doubt, readAt });
    return true;
  };
  const type = (cellId: number, text: string) =>
    setOpen({ typed: { ...typed, [cellId]: text }, notes: without(notes, cellId) });
  return { typed, type, take, notes, stored, state };
}
