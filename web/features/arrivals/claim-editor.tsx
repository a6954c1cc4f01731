'use client';

import {
  type CellFormat,
  CLAIM_KINDS,
  CLAIM_WORDS,
  type ClaimKind,
} from '@dusk-tally/core/arrivals';
import {
  type Chemistry,
  type ChemistryProfile,
  claimPlausibility,
  type Envelope,
} from '@dusk-tally/core/chemistry';
import { useWatch } from 'react-hook-form';
import { say } from '@/kit/say';
import { Form } from '@/kit/form/form';
import { useLabForm } from '@/kit/form/use-lab-form';
import { changeClaimAct } from './acts';
import { type ClaimDraft, claimFromDraft } from './claim-draft';
import { ClaimFields, type InheritedHints } from './claim-fields';
import { claimForm, type ClaimValues, claimValues, draftIn, type StoredItem } from './claim-form';
import { OfferHints } from './offer-text';
import { PlausibilityNote } from './plausibility-note';

/** A claim as somebody else kept it meanwhile. */
interface StoredClaim {
  version: number;
  claim: StoredItem[];
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
  items: StoredItem[];
  inherited: InheritedHints;
  /** What the plausibility is judged by besides the claim. */
  sheet: {
    chemistry: Chemistry;
    profile: ChemistryProfile;
    envelope: Envelope | null;
    massG: number | null;
    ratedAh: number | null;
    format: CellFormat;
  };
  /** Text of the newest offer kept, or empty. */
  offer: string;
  mayChange: boolean;
}) {
  const form = useLabForm({
    schema: claimForm,
    first: claimValues(lotId, version, items),
    act: async (values, key) => {
      const typed = claimFromDraft(draftIn(values));
      if ('problem' in typed) return { ok: false, code: 'invalid', message: typed.problem };
      const outcome = await changeClaimAct(
        {
          lotId,
          version: values.version,
          claim: typed.claim,
        },
        key,
      );
      const theirs = outcome.ok ? undefined : (outcome.current as StoredClaim | undefined);
      return theirs && !outcome.ok
        ? { ...outcome, current: claimValues(lotId, theirs.version, theirs.claim) }
        : outcome;
    },
    done: () => {
      say('Claim kept; verdicts are worked out again.');
    },
    keepAs: `claim:${lotId}`,
  });
  const { control, setValue, formState } = form.form;
  const draft = draftIn(useWatch({ control }) as ClaimValues);
  const change = (next: ClaimDraft) => {
    for (const kind of CLAIM_KINDS)
      if (next[kind] !== draft[kind]) setValue(kind, next[kind] ?? null, { shouldDirty: true });
  };
  const typed = claimFromDraft(draft);
  const of = (kind: ClaimKind) =>
    'claim' in typed ? (typed.claim.find((item) => item.kind === kind)?.value ?? null) : null;
  const ratedAh = of('capacity') ?? sheet.ratedAh;
  return (
    <Form
      of={form}
      label="The claim"
      act="Keep the claim"
      names={CLAIM_WORDS}
      hidesAct={!mayChange}
      className="space-y-4"
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
        <ClaimFields
          draft={draft}
          onChange={change}
          inherited={inherited}
          isRound={sheet.format === 'cylinder'}
          problemOf={(kind) => formState.errors[kind]?.message ?? null}
        />
        {mayChange && <OfferHints text={offer} draft={draft} onChange={change} />}
      </fieldset>
      {!mayChange && <p className="text-quiet">A lead or admin can change the claim.</p>}
    </Form>
  );
}
