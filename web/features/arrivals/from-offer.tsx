'use client';

import { useSearchParams } from 'next/navigation';
import { useEffect, useState } from 'react';
import { useFormContext } from 'react-hook-form';
import { Button } from '@/kit/button';
import { keptForm } from '@/kit/form/kept-form';
import { usePerson } from '@/kit/person';
import { readKept } from '@/lib/browser-store';
import type { LotDraft } from './lot-draft';
import { lotFromOffer } from './lot-from-offer';

/** The offer that was looked at becomes a lot: at once where nothing is typed yet, else on request. */
export function FromOffer({
  empty,
  suppliers,
}: {
  empty: LotDraft;
  suppliers: readonly { id: number; name: string }[];
}) {
  const isAsked = useSearchParams().get('from') === 'offer';
  const { id } = usePerson();
  const { reset } = useFormContext<LotDraft>();
  const [state, setState] = useState<'none' | 'asks' | 'taken'>('none');
  const take = () => {
    const offer = keptForm(readKept(`dusk-draft:${id}:offer`));
    if (!offer) return;
    reset(lotFromOffer(offer.typed, empty, suppliers), {
      keepDefaultValues: true,
    });
    setState('taken');
  };
  useEffect(() => {
    if (!isAsked || readKept(`dusk-draft:${id}:offer`) === null) return;
    if (readKept(`dusk-draft:${id}:take in`) === null) take();
    else setState('asks');
    // Asked once, when the form is opened.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [isAsked, id]);
  if (state === 'none') return null;
  return (
    <p role="status" className="flex flex-wrap items-center gap-2 text-quiet">
      {state === 'taken' ? (
        'Filled from the offer that was looked at; look it over.'
      ) : (
        <>
          Another lot is being typed here.
          <Button onClick={take}>Fill it from the offer instead</Button>
        </>
      )}
    </p>
  );
}
