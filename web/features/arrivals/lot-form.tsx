'use client';

import type { ChemistryProfile } from '@dusk-tally/core/chemistry';
import { useWatch } from 'react-hook-form';
import { Choice, Option } from '@/kit/choice';
import { LinesField, useField } from '@/kit/form/fields';
import { Form } from '@/kit/form/form';
import { Group, Label } from '@/kit/form-parts';
import { Problem } from '@/kit/page';
import type { ClaimDraft } from './claim-draft';
import { ClaimFields } from './claim-fields';
import { FromOffer } from './from-offer';
import { inheritedHints } from './inherited';
import {
  emptyLot,
  type LotContext,
  type LotDraft,
  modelChoice,
  plausibilityOf,
  sheetOf,
} from './lot-draft';
import { LotCostFields, LotOrderFields } from './lot-order-fields';
import { type ModelDraft, ModelFields } from './model-fields';
import type { ModelOption } from './model-option';
import { OfferHints } from './offer-text';
import { PlausibilityNote } from './plausibility-note';
import { useTakeIn } from './use-take-in';

/** One of the models that are described, or a new one with its sheet. */
function ModelPart({ lot, context }: { lot: LotDraft; context: LotContext }) {
  const chosen = useField('modelId');
  const { field, problem } = useField('model');
  const modelId = modelChoice(lot, context);
  const { models } = context;
  return (
    <Group title="Cell model">
      <Label text="Model" problem={chosen.problem}>
        <Choice className="sm:max-w-sm" value={modelId} onValue={chosen.field.onChange}>
          {models.length > 0 && <Option value="">Choose the model …</Option>}
          {models.map((model) => (
            <Option key={model.id} value={model.id}>
              {model.name}
            </Option>
          ))}
          <Option value="new">A new model …</Option>
        </Choice>
      </Label>
      {modelId === 'new' && (
        <ModelFields draft={field.value as ModelDraft} onChange={field.onChange} />
      )}
      {problem && <Problem>Model: {problem}</Problem>}
    </Group>
  );
}

/** The offer as it was written, and what was claimed, taken over from it where that is wished. */
function ClaimPart({ lot, context }: { lot: LotDraft; context: LotContext }) {
  const { field, problem } = useField('claim');
  const draft = field.value as ClaimDraft;
  const sheet = sheetOf(lot, context);
  const profile = context.profiles.find(({ chemistry }) => chemistry === sheet.chemistry)!;
  const plausibility = plausibilityOf(lot, context);
  return (
    <>
      <Group title="The offer">
        <LinesField name="offer" label="Its text, as it was written; kept as evidence" rows={4} />
        <OfferHints text={lot.offer} draft={draft} onChange={field.onChange} />
      </Group>
      <ModelPart lot={lot} context={context} />
      <Group title="What was claimed">
        <ClaimFields
          draft={draft}
          onChange={field.onChange}
          inherited={inheritedHints(sheet, profile)}
          isRound={sheet.format === 'cylinder'}
        />
        {problem && <Problem>{problem}</Problem>}
        {plausibility && (
          <div className="mt-4">
            <PlausibilityNote plausibility={plausibility} />
          </div>
        )}
      </Group>
    </>
  );
}

function Parts({ context }: { context: LotContext }) {
  const lot = useWatch() as LotDraft;
  return <ClaimPart lot={lot} context={context} />;
}

/** Takes in a lot: where it is from, what it is, what was claimed. */
export function LotForm({
  suppliers,
  models,
  profiles,
  currency,
  today,
}: {
  suppliers: readonly { id: number; name: string }[];
  models: ModelOption[];
  profiles: ChemistryProfile[];
  currency: string;
  today: string;
}) {
  const context = { models, profiles, today };
  const form = useTakeIn(context);
  return (
    <Form
      of={form}
      label="A lot"
      act={form.busy ? 'Taking in …' : 'Take in the lot'}
      className="max-w-4xl space-y-4"
    >
      <FromOffer empty={emptyLot(models.length > 0)} suppliers={suppliers} />
      <Group title="Lot">
        <LotOrderFields suppliers={suppliers.map(({ name }) => name)} today={today} />
        <LotCostFields house={currency} />
      </Group>
      <Parts context={context} />
    </Form>
  );
}
