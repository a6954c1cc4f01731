'use client';

import { useEffect, useRef, useState } from 'react';

/** Without a word for so long the line is held to be broken, ms. */
const SILENT_MS = 6000;

/**
 * Server-sent events. The browser comes back by itself after a dropped line, and says what it had.
 * @returns whether the line is up.
 */
export function useStream<T>(address: string | null, take: (data: T) => void): boolean {
  const [isUp, setIsUp] = useState(true);
  const taking = useRef(take);
  useEffect(() => {
    taking.current = take;
  });
  useEffect(() => {
    if (!address) return;
    const source = new EventSource(address);
    let heardAt = Date.now();
    source.onopen = () => {
      heardAt = Date.now();
      setIsUp(true);
    };
    source.onmessage = (event: MessageEvent<string>) => {
      heardAt = Date.now();
      setIsUp(true);
      taking.current(JSON.parse(event.data) as T);
    };
    source.onerror = () => setIsUp(false);
    const timer = setInterval(() => {
      if (Date.now() - heardAt > SILENT_MS && source.readyState !== EventSource.OPEN)
        setIsUp(false);
    }, 1000);
    return () => {
      clearInterval(timer);
      source.close();
    };
  }, [address]);
  return isUp;
}
