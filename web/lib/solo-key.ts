'use client';

import { useEffect, useLayoutEffect, useRef } from 'react';

/** A key that another follows faster than this is a scanner’s, not a hand’s, ms. */
const ALONE_MS = 50;

/**
 * Hears single keys pressed by hand outside of fields. A scanner types too; its letters come in
 * a row and must not act as shortcuts, so a key acts only once none has followed it.
 */
export function useSoloKeys(onKey: (key: string) => void): void {
  const latest = useRef(onKey);
  // Before the next key: it must act on what this one changed.
  useLayoutEffect(() => {
    latest.current = onKey;
  });
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | null = null;
    let lastAt = -Infinity;
    const listen = (event: KeyboardEvent) => {
      const { target, key } = event;
      const typing =
        target instanceof HTMLElement &&
        (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName));
      if (timer) clearTimeout(timer);
      timer = null;
      const inARow = event.timeStamp - lastAt < ALONE_MS;
      lastAt = event.timeStamp;
      if (typing || inARow || event.ctrlKey || event.metaKey || event.altKey) return;
      timer = setTimeout(() => latest.current(key), ALONE_MS);
    };
    window.addEventListener('keydown', listen);
    return () => {
      window.removeEventListener('keydown', listen);
      if (timer) clearTimeout(timer);
    };
  }, []);
}
