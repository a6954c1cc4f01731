'use client';

import { useCallback, useState } from 'react';
import { keepWidthsAct } from '@/lib/widths-act';
import { usePerson } from '../person';

type Widths = Record<string, number>;

/** Dragging sends many widths; what stands still for so long is kept, ms. */
const STANDS_STILL_MS = 600;

/** What was changed since the page was loaded, by person and table: pages that open later show it, too. */
const changed = new Map<string, Widths>();
const waiting = new Map<string, ReturnType<typeof setTimeout>>();

function keepSoon(key: string, table: string, widths: Widths): void {
  changed.set(key, widths);
  clearTimeout(waiting.get(key));
  const send = () => {
    waiting.delete(key);
    // Where nothing can be kept, widths hold until the page is left.
    void keepWidthsAct({ table, widths }).catch(() => undefined);
  };
  waiting.set(key, setTimeout(send, STANDS_STILL_MS));
}

/** Widths of columns as this person left them, on whichever machine that was. */
export function useWidths(
  table: string,
): [Widths, (next: Widths | ((before: Widths) => Widths)) => void] {
  const { id, widths: kept } = usePerson();
  const key = `${id} ${table}`;
  const [widths, setWidths] = useState<Widths>(() => changed.get(key) ?? kept?.[table] ?? {});
  const set = useCallback(
    (next: Widths | ((before: Widths) => Widths)) =>
      setWidths((before) => {
        // A plain object: what has no prototype is not sent.
        const after = { ...(typeof next === 'function' ? next(before) : next) };
        keepSoon(key, table, after);
        return after;
      }),
    [key, table],
  );
  return [widths, set];
}
