'use client';

import { useRouter } from 'next/navigation';
import { useEffect, useLayoutEffect, useRef, useState } from 'react';
import { say } from './say';
import { cellsOfCode, SearchRefused } from '@/lib/search';
import { looksScanned } from './looks-scanned';
import { useKeys } from './use-keys';

/** Keys of a scanner follow each other faster than any hand, ms. */
const FASTEST_HAND_MS = 35;
const LEAST_LENGTH = 4;
/** The same code again within this time is one scan that was sent twice, ms. */
const TWICE_MS = 1000;

type Handler = (code: string) => string | null | Promise<string | null>;
const handlers: Handler[] = [];

/** Takes scans while a screen is open. The handler answers with words, or null for none. */
export function useScans(handler: Handler): void {
  const latest = useRef(handler);
  useLayoutEffect(() => {
    latest.current = handler;
  });
  useEffect(() => {
    const entry: Handler = (code) => latest.current(code);
    handlers.push(entry);
    return () => void handlers.splice(handlers.indexOf(entry), 1);
  }, []);
}

/** Sets a field’s text as if it was typed, so that its screen takes note. */
function setText(input: HTMLInputElement, text: string): void {
  const setter = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')?.set;
  setter?.call(input, text);
  input.dispatchEvent(new Event('input', { bubbles: true }));
}

/** Tells the keys of a scanner from those of a hand. @returns what takes each key: a code where one ended with it. */
function scannerKeys(): (event: KeyboardEvent) => string | null {
  let keys = '';
  let lastAt = 0;
  let fieldBefore: { input: HTMLInputElement; text: string } | null = null;
  return (event) => {
    const now = event.timeStamp;
    if (now - lastAt > FASTEST_HAND_MS) {
      keys = '';
      const { target } = event;
      fieldBefore =
        target instanceof HTMLInputElement && target.type !== 'checkbox'
          ? { input: target, text: target.value }
          : null;
    }
    lastAt = now;
    if (event.key.length === 1 && !event.ctrlKey && !event.metaKey && !event.altKey) {
      keys += event.key;
      return null;
    }
    if (event.key !== 'Enter' || keys.length < LEAST_LENGTH) {
      if (event.key !== 'Shift') keys = '';
      return null;
    }
    const code = keys;
    keys = '';
    // A field that waits for codes takes them itself, and a quick hand may type a number.
    if (fieldBefore && (fieldBefore.input.dataset.codes !== undefined || !looksScanned(code)))
      return null;
    event.preventDefault();
    event.stopPropagation();
    if (fieldBefore) setText(fieldBefore.input, fieldBefore.text);
    return code;
  };
}

/**
 * Hears a scanner that types: a run of keys faster than a hand, ended by Enter, anywhere on the
 * screen. A code that ran into a field of numbers is taken out of it again.
 */
export function ScanListener() {
  const router = useRouter();
  const [scanned] = useState(scannerKeys);
  const previous = useRef({ code: '', at: 0 });
  const take = async (code: string) => {
    const handler = handlers[handlers.length - 1];
    if (handler) {
      const words = await handler(code);
      if (words) say(words);
      return;
    }
    const cells = await cellsOfCode(code).catch((error: unknown) =>
      error instanceof SearchRefused
        ? error.message
        : 'No connection: nobody knows what was scanned.',
    );
    if (typeof cells === 'string') say(cells);
    else if (cells.length === 0) say(`${code} is on no cell yet.`);
    else if (cells.length === 1) router.push(`/cells/${cells[0]!.number}`);
    else
      say(
        `${code} stands on ${cells.map(({ number }) => number).join(', ')}: open the one in your hand by its number.`,
      );
  };
  useKeys((event) => {
    const code = scanned(event);
    if (code === null) return;
    const { code: before, at } = previous.current;
    previous.current = { code, at: event.timeStamp };
    if (before === code && event.timeStamp - at < TWICE_MS)
      say('Scanned twice within a second; taken once.');
    else void take(code.trim().toUpperCase());
  }, true);
  return null;
}
