'use client';

import type { OfferView } from '@dusk-tally/lab/arrivals';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { keepOfferAct } from './arrival-acts';
import { useAct } from '@/kit/use-act';
import { LabDay } from '@/kit/lab-time';
import { Label, TextArea } from '@/kit/form-parts';

/** The offer as it was written, kept as evidence; more can be added, none taken away. */
export function OfferPanel({ lotId, offers }: { lotId: number; offers: OfferView[] }) {
  const [text, setText] = useState('');
  const { run, busy, problem } = useAct();
  return (
    <section className="panel p-4">
      <h2 className="font-semibold">The offer</h2>
      {offers.map((offer) => (
        <blockquote key={offer.id} className="mt-2 border-l-4 border-rule pl-3">
          <p className="max-h-48 overflow-auto whitespace-pre-wrap">{offer.text}</p>
          <p className="mt-1 text-[0.82rem] text-quiet">
            kept by {offer.person} on <LabDay at={offer.at} />
          </p>
        </blockquote>
      ))}
      <form
        className="mt-3"
        onSubmit={(event) => {
          event.preventDefault();
          run(
            (key) => keepOfferAct({ lotId, text }, key),
            () => setText(''),
          );
        }}
      >
        <Label
          text={
            offers.length > 0
              ? 'Another text, such as the listing as it reads now'
              : 'Paste its text'
          }
        >
          <TextArea
            className="min-h-20"
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
        </Label>
        {problem && <Problem>{problem}</Problem>}
        {text.trim() !== '' && (
          <Button type="submit" className="mt-2" disabled={busy}>
            Keep the text
          </Button>
        )}
      </form>
    </section>
  );
}
