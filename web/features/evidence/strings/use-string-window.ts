'use client';

import { useState } from 'react';
import { useAddress } from '@/lib/use-address';
import { dragged, shownOf, timeScale, zoomed } from '../trace-window';
import type { TimeRange } from '../use-trace';

const DIGITS = { timeS: 0, voltageV: 3, currentA: 2, temperatureC: 1 };

/** What is shown of a string, kept in the address, and every way to another stretch. */
export function useStringWindow(durationS: number) {
  const { query, set } = useAddress();
  const [fromS, toS] = [Number(query.get('from') ?? NaN), Number(query.get('to') ?? NaN)];
  const range: TimeRange | null =
    fromS >= 0 && toS > fromS && fromS < durationS
      ? { fromS, toS: Math.min(toS, durationS) }
      : null;
  const [drag, setDrag] = useState<{ from: number; to: number } | null>(null);
  const window = { range, durationS };
  const shown = shownOf(window);
  const go = (next: TimeRange | null) =>
    set({
      from: next ? next.fromS.toFixed(1) : null,
      to: next ? next.toS.toFixed(1) : null,
    });
  const zoom = (factor: number, shift = 0) => go(zoomed(window, factor, shift));
  const keys: Record<string, () => void> = {
    '+': () => zoom(0.5),
    '=': () => zoom(0.5),
    '-': () => zoom(2),
    ArrowLeft: () => zoom(1, -0.25),
    ArrowRight: () => zoom(1, 0.25),
    Escape: () => go(null),
  };
  const onDrag = (kind: 'begin' | 'move' | 'end' | 'leave', h: number) => {
    if (kind === 'begin') setDrag({ from: h, to: h });
    else if (kind === 'move') setDrag((old) => old && { ...old, to: h });
    else {
      if (kind === 'end' && drag) go(dragged(window, drag));
      setDrag(null);
    }
  };
  return {
    range,
    shown,
    drag,
    clock: timeScale(shown, DIGITS),
    go,
    keys,
    onDrag,
    wider: () => zoom(2),
    whole: () => go(null),
  };
}
