'use client';

import { CLAIM_WORDS, type ClaimConditions, type ClaimKind } from '@dusk-tally/core/arrivals';
import {
  type Chemistry,
  type ChemistryProfile,
  claimPlausibility,
  type Envelope,
} from '@dusk-tally/core/chemistry';
import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import { toast } from 'sonner';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { changeClaimAct } from './acts';
import { claimFromDraft, draftOf } from './claim-draft';
import { ClaimFields, type InheritedHints } from './claim-fields';
import { OfferHints } from './offer-text';
import { PlausibilityNote } from './plausibility-note';

interface Item {
  kind: ClaimKind;
  value: number | null;
  text: string | null;
  conditions: ClaimConditions;
}

function inWords(items: Item[]): string {
  return (
    items.map((item) => `${CLAIM_WORDS[item.kind]} ${item.value ?? item.text}`).join('; ') ||
    'no claim'
  );
}

/** The claim, to be changed; a change by someone else meanwhile is shown, not overwritten. */
export function ClaimEditor({
  lotId,
  version,
  items,
  inherited,
  sheet,
  offer,
  mayChange,
}: {
  lotId: number;
  version: number;
  items: Item[];
  inherited: InheritedHints;
  /** What the plausibility is judged by besides the claim. */
  sheet: {
    chemistry: Chemistry;
    profile: ChemistryProfile;
    envelope: Envelope | null;
    massG: number | null;
    ratedAh: number | null;
  };
  /** Text of the newest offer kept, or empty. */
  offer: string;
  mayChange: boolean;
}) {
  const router = useRouter();
  const [draft, setDraft] = useState(() => draftOf(items));
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, startTransition] = useTransition();
  const typed = claimFromDraft(draft);
  const of = (kind: ClaimKind) =>
    'claim' in typed ? (typed.claim.find((item) => item.kind === kind)?.value ?? null) : null;
  const ratedAh = of('capacity') ?? sheet.ratedAh;
  const save = () => {
    const parsed = claimFromDraft(draft);
    if ('problem' in parsed) return setProblem(parsed.problem);
    startTransition(async () => {
      const outcome = await changeClaimAct(lotId, version, parsed.claim);
      if (!outcome.ok)
        return setProblem(
          outcome.current
            ? `${outcome.message} Theirs: ${inWords(outcome.current as Item[])}. Reload to start from it.`
            : outcome.message,
        );
      setProblem(null);
      toast('Claim kept; verdicts are worked out again.');
      router.refresh();
    });
  };
  return (
    <form
      className="space-y-4"
      onSubmit={(event) => {
        event.preventDefault();
        save();
      }}
    >
      {ratedAh !== null && ratedAh > 0 && (
        <PlausibilityNote
          plausibility={claimPlausibility({
            ...sheet,
            ratedAh,
            massG: of('mass') ?? sheet.massG,
          })}
        />
      )}
      <fieldset disabled={!mayChange} className="space-y-4">
        <ClaimFields draft={draft} onChange={setDraft} inherited={inherited} />
        {mayChange && <OfferHints text={offer} draft={draft} onChange={setDraft} />}
      </fieldset>
      {problem && <Problem>{problem}</Problem>}
      {mayChange ? (
        <Button look="primary" type="submit" disabled={busy}>
          Keep the claim
        </Button>
      ) : (
        <p className="text-quiet">A lead or admin can change the claim.</p>
      )}
    </form>
  );
}
