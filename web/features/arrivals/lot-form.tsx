'use client';

import {
  type Chemistry,
  type ChemistryProfile,
  claimPlausibility,
} from '@dusk-tally/core/chemistry';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { type NewLot, takeInLotAct } from './acts';
import { type ClaimDraft, claimFromDraft, costOf, EMPTY_CLAIM } from './claim-draft';
import { typedNumber } from '@/kit/typed-number';
import { ClaimFields } from './claim-fields';
import { inheritedHints } from './inherited';
import { OfferHints } from './offer-text';
import { MODEL_NUMBERS, ModelFields, modelNumbers, NEW_MODEL } from './model-fields';
import { Group, Input, Label, Suggesting, TextArea } from '@/kit/form-parts';
import { PlausibilityNote } from './plausibility-note';
import { Choice, Option } from '@/kit/choice';
import { DateField } from '@/kit/date-field';
import { NumberInput } from '@/kit/quantity-field';
import { orOffline } from '@/lib/or-offline';
import { useKeptDraft } from '@/lib/use-kept-draft';

export interface ModelOption {
  id: number;
  name: string;
  chemistry: Chemistry;
  format: 'cylinder' | 'prism' | 'pouch';
  diameterMm: number | null;
  widthMm: number | null;
  thicknessMm: number | null;
  heightMm: number | null;
  massG: number | null;
  massTolerancePct: number | null;
  sizeTolerancePct: number | null;
  ratedAh: number | null;
  rateIt: number | null;
  cutoffV: number | null;
  chargeV: number | null;
  taperIt: number | null;
  restMinutes: number | null;
  temperatureC: number | null;
  acResistanceMohm: number | null;
  dcResistanceMohm: number | null;
  maxChargeA: number | null;
  maxDischargeA: number | null;
}

/** An answer that takes longer is taken for lost; the same try may be sent again, ms. */
const PATIENCE_MS = 20_000;

const COSTS = [
  ['price', 'Price'],
  ['discount', 'Discount'],
  ['freight', 'Freight'],
  ['duty', 'Duty'],
  ['fees', 'Payment fees'],
] as const;

function envelopeFrom(
  model: Pick<ModelOption, 'format' | 'diameterMm' | 'widthMm' | 'thicknessMm' | 'heightMm'>,
) {
  const { format, diameterMm, widthMm, thicknessMm, heightMm } = model;
  if (format === 'cylinder') {
    return diameterMm && heightMm ? ({ shape: 'cylinder', diameterMm, heightMm } as const) : null;
  }
  return widthMm && thicknessMm && heightMm
    ? ({ shape: 'prism', widthMm, thicknessMm, heightMm } as const)
    : null;
}

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
  const router = useRouter();
  // Not a transition: one that waits for a lost answer would keep the button busy for good.
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const [kept, keep, forget] = useKeptDraft('lot', {
    order: {
      title: '',
      supplierName: '',
      ordered: '',
      quantity: '',
      takenAs: 'cells' as 'cells' | 'packs',
      price: '',
      discount: '',
      freight: '',
      duty: '',
      fees: '',
      orderedOn: '',
      /** Null: today, whichever day the form is taken up again. */
      arrivedOn: null as string | null,
    },
    modelId: models.length > 0 ? '' : 'new',
    newModel: NEW_MODEL,
    draft: EMPTY_CLAIM as ClaimDraft,
    offer: '',
    /** Of this try; another one as soon as something changes. */
    clientKey: '',
  });
  const { order, newModel, draft, offer } = kept;
  const arrivedOn = order.arrivedOn ?? today;
  // A model that was kept and is there no more is no choice.
  const isThere = kept.modelId === 'new' || models.some(({ id }) => String(id) === kept.modelId);
  const modelId = isThere ? kept.modelId : '';
  const change = (patch: Partial<typeof kept>) => keep({ ...patch, clientKey: '' });
  const chosen = models.find((model) => String(model.id) === modelId) ?? null;
  const set = (patch: Partial<typeof order>) => change({ order: { ...order, ...patch } });

  const claim = claimFromDraft(draft);
  const claimed = (kind: 'capacity' | 'mass') =>
    'claim' in claim ? claim.claim.find((item) => item.kind === kind)?.value : null;
  const sheet = chosen ?? { ...newModel, ...modelNumbers(newModel) };
  const ratedAh = claimed('capacity') ?? sheet.ratedAh;
  const profile = profiles.find((row) => row.chemistry === sheet.chemistry)!;
  const plausibility =
    ratedAh !== null && ratedAh !== undefined && ratedAh > 0 && modelId !== ''
      ? claimPlausibility({
          ratedAh,
          chemistry: sheet.chemistry,
          envelope: envelopeFrom(sheet),
          massG: claimed('mass') ?? sheet.massG,
          profile,
        })
      : null;
  const inherited = inheritedHints(sheet, profile);

  const submit = () => {
    if ('problem' in claim) return setProblem(claim.problem);
    const quantity = typedNumber(order.quantity, 'count');
    if (!order.supplierName.trim()) return setProblem('Supplier: expected a name.');
    if (quantity !== null && (!Number.isInteger(quantity) || quantity < 0))
      return setProblem(
        `Cells counted: expected a whole number, or nothing while the box is on its way; found “${order.quantity}”.`,
      );
    const ordered = typedNumber(order.ordered, 'count');
    if (ordered !== null && (!Number.isInteger(ordered) || ordered < 0))
      return setProblem(`Ordered: expected a whole number; found “${order.ordered}”.`);
    const badCost = COSTS.find(([name]) => Number.isNaN(costOf(order[name], order.price)));
    if (badCost)
      return setProblem(`${badCost[1]}: expected a number; found “${order[badCost[0]]}”.`);
    if (modelId === '') return setProblem('Cell model: choose one, or describe a new one.');
    const bad = chosen
      ? null
      : MODEL_NUMBERS.find((name) => Number.isNaN(modelNumbers(newModel)[name]));
    if (bad) return setProblem(`Model: expected a number; found “${newModel[bad]}”.`);
    const model: NewLot['model'] = chosen
      ? { id: chosen.id }
      : {
          ...newModel,
          ...modelNumbers(newModel),
          terminalType: newModel.terminalType || null,
        };
    if (quantity === 0)
      return setProblem(
        'Cells counted: 0 cells are no lot. Leave it empty while the box is on its way.',
      );
    // The same try keeps its key: a lost answer does not make a second lot.
    const clientKey = kept.clientKey || crypto.randomUUID();
    keep({ clientKey });
    setProblem(null);
    setBusy(true);
    void (async () => {
      try {
        const outcome = await orOffline(
          () =>
            takeInLotAct({
              clientKey,
              title: order.title,
              supplierName: order.supplierName,
              model,
              quantity: order.takenAs === 'packs' ? 0 : (quantity ?? 0),
              orderedQuantity: ordered,
              takenAs: order.takenAs,
              ...Object.fromEntries(
                COSTS.map(([name]) => [name, costOf(order[name], order.price)]),
              ),
              offer,
              orderedOn: order.orderedOn || null,
              arrivedOn: arrivedOn || null,
              claim: claim.claim,
            }),
          PATIENCE_MS,
        );
        if (!outcome.ok) return setProblem(outcome.message);
        forget();
        router.push(`/lots/${outcome.data.code}/arrival/box`);
      } catch {
        setProblem(
          'No connection: the lot is not taken in yet. What you typed is kept; press again when the connection is back.',
        );
      } finally {
        setBusy(false);
      }
    })();
  };

  return (
    <form
      className="max-w-4xl space-y-4"
      onSubmit={(event) => {
        event.preventDefault();
        submit();
      }}
    >
      <Group title="Lot">
        <div className="grid gap-3 sm:grid-cols-3">
          <Label text="Short name">
            <Input
              autoFocus
              value={order.title}
              onChange={(event) => set({ title: event.target.value })}
            />
          </Label>
          <Label text="Supplier">
            <Suggesting
              value={order.supplierName}
              onValue={(supplierName) => set({ supplierName })}
              known={suppliers}
            />
          </Label>
          <Label text="It comes as">
            <Choice
              value={order.takenAs}
              onValue={(next) => set({ takenAs: next as 'cells' | 'packs' })}
            >
              <Option value="cells">single cells</Option>
              <Option value="packs">packs to break down</Option>
            </Choice>
          </Label>
          <Label text={order.takenAs === 'packs' ? 'Packs ordered' : 'Ordered'}>
            <NumberInput
              quantity="count"
              text={order.ordered}
              onText={(next) => set({ ordered: next })}
            />
          </Label>
          {order.takenAs === 'cells' && (
            <Label text="Cells counted">
              <NumberInput
                quantity="count"
                text={order.quantity}
                onText={(next) => set({ quantity: next })}
                placeholder="count on arrival"
              />
            </Label>
          )}
          <Label text="Ordered on">
            <DateField value={order.orderedOn} onValue={(next) => set({ orderedOn: next })} />
          </Label>
          <Label text="Arrived on">
            <DateField value={arrivedOn} onValue={(next) => set({ arrivedOn: next })} />
          </Label>
        </div>
        <div className="mt-3 grid gap-3 sm:grid-cols-5">
          {COSTS.map(([name, words]) => (
            <Label key={name} text={`${words} / ${currency}`}>
              {name === 'discount' ? (
                <Input
                  placeholder="or 4 %"
                  value={order[name]}
                  onChange={(event) => set({ [name]: event.target.value })}
                />
              ) : (
                <NumberInput
                  quantity="money"
                  text={order[name]}
                  onText={(next) => set({ [name]: next })}
                />
              )}
            </Label>
          ))}
        </div>
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
        <Label text="Model">
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
      </Group>
      <Group title="What was claimed">
        <ClaimFields
          draft={draft}
          onChange={(next) => change({ draft: next })}
          inherited={inherited}
        />
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
