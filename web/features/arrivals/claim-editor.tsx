'use client';

import { CLAIM_WORDS, type ClaimKind } from '@dusk-tally/core/arrivals';
import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import { toast } from 'sonner';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { changeClaimAct } from './acts';
import { type ClaimDraft, ClaimFields, claimFromDraft, EMPTY_CLAIM } from './claim-fields';

interface Item {
  kind: ClaimKind;
  value: number | null;
  text: string | null;
  conditions: { rateIt?: number; cutoffV?: number; temperatureC?: number };
}

function draftOf(items: Item[]): ClaimDraft {
  const number = (value: number | null | undefined) =>
    value === null || value === undefined ? '' : String(value);
  const capacity = items.find((item) => item.kind === 'capacity');
  return {
    ...EMPTY_CLAIM,
    capacity: number(capacity?.value),
    rateIt: number(capacity?.conditions.rateIt),
    cutoffV: number(capacity?.conditions.cutoffV),
    temperatureC: number(capacity?.conditions.temperatureC),
    acResistance: number(items.find((item) => item.kind === 'acResistance')?.value),
    others: items
      .filter((item) => item.kind !== 'capacity' && item.kind !== 'acResistance')
      .map((item) => ({ kind: item.kind, text: item.text ?? number(item.value) })),
  };
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
  mayChange,
}: {
  lotId: number;
  version: number;
  items: Item[];
  inherited: Partial<Record<keyof ClaimDraft, string>>;
  mayChange: boolean;
}) {
  const router = useRouter();
  const [draft, setDraft] = useState(() => draftOf(items));
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, startTransition] = useTransition();
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
      <fieldset disabled={!mayChange} className="space-y-4">
        <ClaimFields draft={draft} onChange={setDraft} inherited={inherited} />
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
