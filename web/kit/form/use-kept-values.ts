'use client';

import { useCallback, useEffect, useState } from 'react';
import type { DefaultValues, FieldValues, UseFormReturn } from 'react-hook-form';
import { keep, readKept } from '@/lib/browser-store';
import { usePerson } from '../person';
import type { Clash } from './conflict';
import { keptForm, retyped } from './kept-form';

/** What is on its way to the server: a form that is made anew meanwhile does not take it for a draft. */
const onTheWay = new Set<string>();

/**
 * Keeps what is typed in a form in this browser, for the person who typed it, until it is stored.
 * @param keepAs nothing is kept without a name.
 * @param clean the fields as they stand where nothing is typed: they are not kept.
 */
export function useKeptValues<Values extends FieldValues>(
  keepAs: string | undefined,
  form: UseFormReturn<Values>,
  clean: { readonly current: Values },
  /** Told what others changed meanwhile of what was typed on an earlier visit. */
  clash: (clashes: readonly Clash[]) => void,
): {
  restored: boolean;
  forget: () => void;
  /** Work that sends what is kept. */
  sending: <T>(work: () => Promise<T>) => Promise<T>;
} {
  const { id } = usePerson();
  const key = keepAs === undefined ? null : `dusk-draft:${id}:${keepAs}`;
  const [restored, setRestored] = useState(false);
  useEffect(() => {
    if (key === null) return;
    const kept = onTheWay.has(key) ? null : keptForm(readKept(key));
    if (kept) {
      const { values, clashes, isOld } = retyped(kept, clean.current);
      if (isOld) keep(key, null);
      else {
        form.reset(values as DefaultValues<Values>, { keepDefaultValues: true });
        setRestored(true);
        if (clashes.length > 0) clash(clashes);
      }
    }
    const { unsubscribe } = form.watch((values) => {
      const isClean = JSON.stringify(values) === JSON.stringify(clean.current);
      keep(key, isClean ? null : { typed: values, over: clean.current });
    });
    return unsubscribe;
    // What was kept is read once, when the form is opened.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key, form]);
  const forget = useCallback(() => {
    if (key !== null) keep(key, null);
    setRestored(false);
  }, [key]);
  const sending = useCallback(
    async <T>(work: () => Promise<T>): Promise<T> => {
      if (key !== null) onTheWay.add(key);
      try {
        return await work();
      } finally {
        if (key !== null) onTheWay.delete(key);
      }
    },
    [key],
  );
  return { restored, forget, sending };
}
