'use client';

import type { ChemistryProfile } from '@dusk-tally/core/chemistry';
import { Button } from '@/kit/button';
import { Choice, Option } from '@/kit/choice';
import { Group, Label, TextArea } from '@/kit/form-parts';
import { Problem } from '@/kit/page';
import { ClaimFields } from './claim-fields';
import { inheritedHints } from './inherited';
import { modelChoice, plausibilityOf, sheetOf } from './lot-draft';
import { LotCostFields, LotOrderFields } from './lot-order-fields';
import { ModelFields } from './model-fields';
import type { ModelOption } from './model-option';
import { OfferHints } from './offer-text';
import { PlausibilityNote } from './plausibility-note';
import { useTakeIn } from './use-take-in';

/** Takes in a lot: where it is from, what it is, what was claimed. */
export function LotForm({
  suppliers,
  models,
  profiles,
  currency,
  today,
}: {
  suppliers: string[];
  models: ModelOption[];
  profiles: ChemistryProfile[];
  currency: string;
  today: string;
}) {
  const context = { models, profiles, today };
  const { lot, change, busy, problem, problems, submit } = useTakeIn(context);
  const { order, newModel, draft, offer } = lot;
  const set = (patch: Partial<typeof order>) => change({ order: { ...order, ...patch } });
  const modelId = modelChoice(lot, context);
  const sheet = sheetOf(lot, context);
  const profile = profiles.find(({ chemistry }) => chemistry === sheet.chemistry)!;
  const plausibility = plausibilityOf(lot, context);
  return (
    <form
      className="max-w-4xl space-y-4"
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        void submit(event.currentTarget);
      }}
    >
      <Group title="Lot">
        <LotOrderFields
          order={order}
          set={set}
          suppliers={suppliers}
          today={today}
          problems={problems}
        />
        <LotCostFields order={order} set={set} currency={currency} problems={problems} />
      </Group>
      <Group title="The offer">
        <Label text="Its text, as it was written; kept as evidence">
          <TextArea
            className="min-h-24"
            value={offer}
            onChange={(event) => change({ offer: event.target.value })}
          />
        </Label>
        <OfferHints text={offer} draft={draft} onChange={(next) => change({ draft: next })} />
      </Group>
      <Group title="Cell model">
        <Label text="Model" problem={problems.modelId ?? null}>
          <Choice
            className="sm:max-w-sm"
            value={modelId}
            onValue={(next) => change({ modelId: next })}
          >
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
          <ModelFields draft={newModel} onChange={(next) => change({ newModel: next })} />
        )}
        {problems.model && <Problem>Model: {problems.model}</Problem>}
      </Group>
      <Group title="What was claimed">
        <ClaimFields
          draft={draft}
          onChange={(next) => change({ draft: next })}
          inherited={inheritedHints(sheet, profile)}
        />
        {problems.claim && <Problem>{problems.claim}</Problem>}
        {plausibility && (
          <div className="mt-4">
            <PlausibilityNote plausibility={plausibility} />
          </div>
        )}
      </Group>
      {problem && <Problem>{problem}</Problem>}
      <Button look="primary" type="submit" disabled={busy}>
        {busy ? 'Taking in …' : 'Take in the lot'}
      </Button>
    </form>
  );
}
