'use client';

import { findingKind } from '@dusk-tally/core/arrivals';
import type { InspectionMarked } from '@dusk-tally/lab/arrivals';
import { useRouter } from 'next/navigation';
import { useEffect, useMemo, useState } from 'react';
import { useSendQueue } from '@/lib/use-send-queue';
import { useScans } from '@/kit/scan-listener';
import {
  type HeldMarks,
  type Mark,
  type MarkedCell,
  strokesOf,
  withMarks,
} from './inspection-marks';
import { type ArrivalNow, useArrival } from './use-arrival';

/** Which cells are picked, by clicks, Shift, numbers and scans. */
function usePicked(cells: readonly MarkedCell[]) {
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [last, setLast] = useState<string | null>(null);
  const indexOf = (number: string) => cells.findIndex((cell) => cell.number === number);
  useScans((code) => {
    const cell = cells.find((row) => row.code === code || row.number === code);
    if (!cell) return `${code} is on no cell of this lot yet: scan it under Codes.`;
    setChosen(new Set([...chosen, cell.number]));
    setLast(cell.number);
    return `${cell.number} picked.`;
  });
  return {
    chosen,
    setChosen,
    pick: (numbers: readonly string[], upTo: boolean) => {
      const next = new Set(chosen);
      const end = numbers.at(-1)!;
      const [from, to] = [upTo && last ? indexOf(last) : -1, indexOf(end)];
      if (from >= 0)
        for (let i = Math.min(from, to); i <= Math.max(from, to); i++) next.add(cells[i]!.number);
      else if (numbers.every((number) => next.has(number)))
        for (const number of numbers) next.delete(number);
      else for (const number of numbers) next.add(number);
      setLast(end);
      setChosen(next);
    },
  };
}

/** An inspection as it goes: cells with the marks on their way, what is picked, and every act. */
export function useInspection(lotId: number, initial: ArrivalNow) {
  const router = useRouter();
  const arrival = useArrival(lotId, initial);
  const [held, setHeld] = useState<Mark[]>([]);
  const [refused, setRefused] = useState<string | null>(null);
  const [beside, setBeside] = useState<InspectionMarked['found']>([]);
  const [stopped, setStopped] = useState<string[]>([]);
  const settled = () => setHeld((now) => now.slice(1));
  const { state, push, restore } = useSendQueue<HeldMarks>({
    what: `inspection:${lotId}`,
    url: `/api/lots/${lotId}/inspection`,
    pack: ([first]) => ({ batch: [first!], body: first }),
    onReply: (_batch, data) => {
      const { found } = data as InspectionMarked;
      if (found.length > 0) setBeside(found);
      void arrival.refetch().then(() => {
        settled();
        router.refresh();
      });
    },
    onRefused: (_mark, message) => {
      settled();
      setRefused(`${message} Mark again what is missing.`);
    },
  });
  useEffect(() => {
    setHeld(restore().flatMap((batch) => batch.marks));
  }, [restore]);
  const cells = useMemo(() => withMarks(arrival.data.cells, held), [arrival.data.cells, held]);
  const strokes = useMemo(() => strokesOf(cells), [cells]);
  const picked = usePicked(cells);
  const ids = cells.flatMap(({ id, number }) => (picked.chosen.has(number) ? [id] : []));
  const left = cells.filter((cell) => !cell.inspected && !cell.isOnItsWay).length;
  const send = (mark: Mark) => {
    setRefused(null);
    setHeld((now) => [...now, mark]);
    push([{ clientKey: crypto.randomUUID(), marks: [mark] }]);
    picked.setChosen(new Set());
  };
  return {
    cells,
    strokes,
    picked,
    ids,
    left,
    state,
    refused,
    /** What others found on cells that were to be cleared. */
    beside,
    /** Cells this person just found dangerous. */
    stopped,
    understood: () => {
      setStopped([]);
      setBeside([]);
    },
    find: (code: string, note: string) => {
      if (ids.length === 0) return;
      if (findingKind(code).severity === 'stop') setStopped([...picked.chosen]);
      send({ act: 'finding', cellIds: ids, code, note: note.trim() || null });
    },
    clear: () => {
      if (ids.length === 0) return;
      // What was seen of these cells when they were cleared: what others found since speaks up.
      const seen = Object.fromEntries(
        cells.flatMap(({ id, findings: codes }) =>
          codes.length > 0 && ids.includes(id) ? [[String(id), [...codes]]] : [],
        ),
      );
      send({ act: 'clear', cellIds: ids, seen });
    },
    clearRest: () => {
      if (left > 0) send({ act: 'clearRest', except: ids });
    },
  };
}
