'use client';

import { impossibleRest, restDoubt } from '@dusk-tally/core/resting';
import { parseClearQuantity } from '@dusk-tally/core/units';
import type { ShelfLine } from '@dusk-tally/lab/resting';
import { useEffect, useState } from 'react';
import { useCalmRefresh } from '@/lib/use-calm-refresh';
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
}

/** Readings of the shelf: typed, asked about where they are odd, sent, held without a connection. */
export function useShelf(instrumentId: number | null, temperatureC: number | null) {
  const refresh = useCalmRefresh();
  const [typed, setTyped] = useState<Readonly<Record<number, string>>>({});
  const [notes, setNotes] = useState<Readonly<Record<number, ShelfNote>>>({});
  const [stored, setStored] = useState<Readonly<Record<number, number>>>({});
  const note = (cellId: number, said: ShelfNote | null) =>
    setNotes(({ [cellId]: _, ...rest }) => (said ? { ...rest, [cellId]: said } : rest));
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
    onRefused: ({ cellId }, message) => note(cellId, { text: message, isQuestion: false }),
  });
  useEffect(() => {
    restore();
  }, [restore]);

  /** Takes what is typed for a cell. @returns whether it was taken: then the next one is read. */
  const take = (line: ShelfLine): boolean => {
    const { cellId, lot, expectedV, detail, endedAt } = line;
    const text = (typed[cellId] ?? '').trim();
    if (text === '') return false;
    const parsed = parseClearQuantity(text, 'voltageV');
    if (!parsed.ok) {
      note(cellId, { text: parsed.message, isQuestion: false });
      return false;
    }
    const impossible = impossibleRest(parsed.value, expectedV);
    if (impossible !== null) {
      note(cellId, { text: impossible, isQuestion: false });
      return false;
    }
    const asked = notes[cellId];
    const lastV = endedAt ? null : (stored[cellId] ?? detail.voltageV);
    const doubt = restDoubt(parsed.value, expectedV, lastV);
    if (doubt !== null && !(asked?.isQuestion && asked.text === doubt)) {
      note(cellId, { text: doubt, isQuestion: true });
      return false;
    }
    note(cellId, null);
    setTyped(({ [cellId]: _, ...rest }) => rest);
    setStored({ ...stored, [cellId]: parsed.value });
    push([
      {
        clientKey: crypto.randomUUID(),
        lotId: lot.id,
        instrumentId,
        cellId,
        value: parsed.value,
        decimals: parsed.decimals,
        temperatureC,
        keptDespite: doubt,
        // What ended a rest is typed again where it stands: a moment after it, so that it mends it.
        readAt: (endedAt ? new Date(new Date(endedAt).getTime() + 1000) : new Date()).toISOString(),
      },
    ]);
    return true;
  };
  const type = (cellId: number, text: string) => {
    setTyped({ ...typed, [cellId]: text });
    if (notes[cellId]) note(cellId, null);
  };
  return { typed, type, take, notes, stored, state };
}
