'use client';

import type { ReadingPurpose } from '@dusk-tally/core/arrivals';
import type { ReadingBeside } from '@dusk-tally/lab/evidence';
import { useFetched } from '@/lib/use-fetched';
import { useEffect, useRef } from 'react';
import { type GridCell, type Kind, readingPlace, standingKeys } from './entry-columns';
import { type PendingReading, useOutbox } from './entry-outbox';

/** How often what others typed is looked for, ms. */
const POLL_MS = 3000;

/** A reading as it stands, typed here or by somebody else. */
export interface NewestReading {
  value: number | null;
  decimals: number;
  repeats: number[] | null;
  /** Who typed it; null for oneself. */
  by: string | null;
}

type Unkeyed = Omit<PendingReading, 'clientKey' | 'over'>;

/**
 * Sends what is typed and looks for what others type. Each reading says which one it was typed over,
 * so that the server can tell a change from a clash.
 */
export function useGridSending({
  lotId,
  cells,
  lastReading,
  onRefused,
  onBeside,
}: {
  lotId: number;
  cells: readonly GridCell[];
  /** Number of the newest reading the page was made from. */
  lastReading: number;
  onRefused: (reading: PendingReading, message: string, current?: unknown) => void;
  onBeside: (readings: readonly ReadingBeside[]) => void;
}) {
  const known = useRef<Map<string, string> | null>(null);
  const keys = () => (known.current ??= standingKeys(cells));
  const stands = (place: string, key: string | null) =>
    void (key === null ? keys().delete(place) : keys().set(place, key));
  const mine = useRef(new Set<string>());
  const waiting = useRef(new Map<string, string>());
  const base = useRef<{ place: string; over: string | null } | null>(null);
  const after = useRef(lastReading);
  /** What stands at places since the page was made, by whom; also where it is not shown now. */
  const newest = useRef(new Map<string, NewestReading>());
  const { state, push, restore, amend } = useOutbox(
    lotId,
    (reading, message, current) => {
      const place = placeOf(reading);
      waiting.current.delete(place);
      newest.current.delete(place);
      // What was typed over it was typed over what stands there.
      const { over, clientKey } = reading;
      if (keys().get(place) === clientKey) stands(place, over);
      if (base.current?.over === clientKey) base.current = { place, over };
      amend((other) => (other.over === clientKey ? { ...other, over } : other));
      onRefused(reading, message, current);
    },
    (batch) => {
      for (const reading of batch)
        if (waiting.current.get(placeOf(reading)) === reading.clientKey)
          waiting.current.delete(placeOf(reading));
    },
  );
  const { data } = useFetched({
    queryKey: ['readings-beside', lotId],
    refetchInterval: POLL_MS,
    // What an earlier visit found is older than the page: it is never shown again.
    gcTime: 0,
    queryFn: async (): Promise<ReadingBeside[]> => {
      const response = await fetch(`/api/lots/${lotId}/readings?after=${after.current}`);
      if (!response.ok) throw new Error('not to be had now');
      const { data: found } = (await response.json()) as {
        data: { last: number; readings: ReadingBeside[] };
      };
      after.current = found.last;
      return found.readings;
    },
  });
  useEffect(() => {
    const others = (data ?? []).filter(
      (reading) => !mine.current.has(reading.clientKey) && !waiting.current.has(placeOf(reading)),
    );
    if (others.length === 0) return;
    for (const reading of others) {
      keys().set(placeOf(reading), reading.clientKey);
      newest.current.set(placeOf(reading), { ...reading, by: reading.person });
    }
    onBeside(others);
    // What came in is taken up once.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [data]);

  /** Says at which place somebody begins to type: what stands there now is what they see. */
  const look = (cellId: number, kind: Kind, purpose: ReadingPurpose) => {
    const place = readingPlace(cellId, kind, purpose);
    base.current = { place, over: keys().get(place) ?? null };
  };
  const send = (readings: readonly Unkeyed[]) =>
    push(
      readings.map((reading): PendingReading => {
        const place = placeOf(reading);
        const clientKey = crypto.randomUUID();
        const over =
          base.current?.place === place ? base.current.over : (keys().get(place) ?? null);
        keys().set(place, clientKey);
        mine.current.add(clientKey);
        waiting.current.set(place, clientKey);
        newest.current.set(place, { ...reading, by: null });
        if (base.current?.place === place) base.current = { place, over: clientKey };
        return { ...reading, clientKey, over };
      }),
    );
  return {
    state,
    send,
    look,
    /** What waited from before a reload. */
    takeUp: (): PendingReading[] => {
      const readings = restore();
      for (const reading of readings) {
        keys().set(placeOf(reading), reading.clientKey);
        newest.current.set(placeOf(reading), { ...reading, by: null });
        mine.current.add(reading.clientKey);
        waiting.current.set(placeOf(reading), reading.clientKey);
      }
      return readings;
    },
    /** What stands at a place since the page was made; undefined where nothing came. */
    newestAt: (place: string) => newest.current.get(place),
    /** A reading somebody else stored is what stands at its place now. */
    see: (place: string, clientKey: string) => {
      keys().set(place, clientKey);
      if (base.current?.place === place) base.current = { place, over: clientKey };
    },
  };
}

const placeOf = ({
  cellId,
  kind,
  purpose,
}: {
  cellId: number;
  kind: Kind;
  purpose: ReadingPurpose;
}): string => readingPlace(cellId, kind, purpose);
