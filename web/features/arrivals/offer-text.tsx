'use client';

import { CLAIM_ITEMS, type ClaimKind, type OfferHint, readOffer } from '@dusk-tally/core/arrivals';
import { ClipboardPaste } from 'lucide-react';
import { useMemo } from 'react';
import { Button } from '@/kit/button';
import type { ClaimDraft } from './claim-draft';

const isItem = (hint: OfferHint): hint is OfferHint & { kind: ClaimKind } =>
  hint.kind in CLAIM_ITEMS;

const OTHER_WORDS: Record<Exclude<OfferHint['kind'], ClaimKind>, string> = {
  chemistry: 'Chemistry',
  sizeCode: 'Size code',
  price: 'Price',
  currency: 'Currency',
};

function wordsOf(hint: OfferHint): string {
  if (!isItem(hint))
    return `${OTHER_WORDS[hint.kind as keyof typeof OTHER_WORDS]} ${hint.text ?? hint.value}`;
  const { words, unit } = CLAIM_ITEMS[hint.kind];
  return `${words} ${hint.value === null ? hint.text : `${hint.value}${unit ? ` ${unit}` : ''}`}`;
}

/** What an offer’s text says, each with the words it was read from; taken over on request only. */
export function OfferHints({
  text,
  draft,
  onChange,
}: {
  text: string;
  draft: ClaimDraft;
  onChange: (draft: ClaimDraft) => void;
}) {
  const hints = useMemo(() => readOffer(text), [text]);
  const items = hints.filter(isItem);
  const takeOver = () => {
    const next = { ...draft };
    for (const { kind, value, text: words } of items) {
      const before = next[kind];
      if (before && before.value.trim() !== '') continue;
      next[kind] = {
        value: words ?? String(value),
        conditions: before?.conditions ?? {},
      };
    }
    onChange(next);
  };
  if (text.trim() === '') return null;
  if (hints.length === 0)
    return (
      <p className="mt-2 text-quiet">
        Nothing in it reads like a claim. It is kept as evidence all the same.
      </p>
    );
  return (
    <div className="mt-3 flex flex-wrap items-start justify-between gap-3">
      <ul className="space-y-0.5" aria-label="What the offer says">
        {hints.map((hint) => (
          <li key={hint.kind}>
            {wordsOf(hint)} <span className="text-quiet">from “{hint.from}”</span>
          </li>
        ))}
      </ul>
      {items.length > 0 && (
        <Button onClick={takeOver}>
          <ClipboardPaste size={16} aria-hidden /> Fill the claim from it
        </Button>
      )}
    </div>
  );
}
