'use client';

import { useEffect, useEffectEvent } from 'react';
import { flushSync } from 'react-dom';

declare global {
  interface Window {
    /** Presses of before the page was alive, in their order; `end` stops the keeping. */
    earlyKeys?: KeyboardEvent[] & { end: () => void };
  }
}

const hearing = new Set<(event: KeyboardEvent) => void>();

/**
 * Tells everyone who hears keys what was pressed before, one by one: each acts on what the one before
 * it changed. What is pressed until then is kept, too, so that a code whose keys fell on both sides
 * stays in its order.
 */
function tellEarly(): void {
  const keys = window.earlyKeys;
  if (!keys) return;
  keys.end();
  delete window.earlyKeys;
  for (const event of keys)
    flushSync(() => {
      for (const hear of hearing) hear(event);
    });
}

/**
 * Hears every key pressed on the page, also those from before it was alive, whose own effect can no
 * longer be prevented.
 * @param first before whatever has the focus hears it.
 */
export function useKeys(onKey: (event: KeyboardEvent) => void, first = false): void {
  const hear = useEffectEvent(onKey);
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      // Kept still, and told in its turn.
      if (window.earlyKeys?.includes(event)) return;
      hear(event);
    };
    window.addEventListener('keydown', listen, first);
    hearing.add(listen);
    // When all who come with the page are there.
    if (window.earlyKeys) setTimeout(tellEarly);
    return () => {
      window.removeEventListener('keydown', listen, first);
      hearing.delete(listen);
    };
  }, [first]);
}
