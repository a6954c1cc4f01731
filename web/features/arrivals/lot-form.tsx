'use client';

import { CHEMISTRY_PROFILES, type Chemistry, claimPlausibility } from '@dusk-tally/core/chemistry';
import { useRouter } from 'next/navigation';
import { useId, useState, useTransition } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { type NewLot, takeInLotAct } from './acts';
import {
  type ClaimDraft,
  ClaimFields,
  claimFromDraft,
  EMPTY_CLAIM,
  typedNumber,
} from './claim-fields';
import { MODEL_NUMBERS, ModelFields, modelNumbers, NEW_MODEL } from './model-fields';
import { Group, Label } from './form-parts';
import { PlausibilityNote } from './plausibility-note';

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
  ratedAh: number | null;
  rateIt: number | null;
  cutoffV: number | null;
  temperatureC: number | null;
  acResistanceMohm: number | null;
}

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
  today,
}: {
  suppliers: string[];
  models: ModelOption[];
  today: string;
}) {
  const router = useRouter();
  const listId = useId();
  const [busy, startTransition] = useTransition();
  const [problem, setProblem] = useState<string | null>(null);
  const [order, setOrder] = useState({
    title: '',
    supplierName: '',
    quantity: '',
    price: '',
    orderedOn: '',
    arrivedOn: today,
  });
  const [modelId, setModelId] = useState(models.length > 0 ? '' : 'new');
  const [newModel, setNewModel] = useState(NEW_MODEL);
  const [draft, setDraft] = useState<ClaimDraft>(EMPTY_CLAIM);
  const chosen = models.find((model) => String(model.id) === modelId) ?? null;
  const set = (patch: Partial<typeof order>) => setOrder((now) => ({ ...now, ...patch }));

  const claim = claimFromDraft(draft);
  const claimedAh =
    'claim' in claim ? claim.claim.find((item) => item.kind === 'capacity')?.value : null;
  const sheet = chosen ?? { ...newModel, ...modelNumbers(newModel) };
  const ratedAh = claimedAh ?? sheet.ratedAh;
  const plausibility =
    ratedAh && modelId !== ''
      ? claimPlausibility({
          ratedAh,
          chemistry: sheet.chemistry,
          envelope: envelopeFrom(sheet),
          massG: sheet.massG,
        })
      : null;
  const usualCutoffV = CHEMISTRY_PROFILES[sheet.chemistry].cutoffV;
  const hint = (value: number | null, source = 'data sheet') =>
    value ? `${value} (${source})` : undefined;
  const inherited = {
    capacity: hint(sheet.ratedAh),
    rateIt: hint(sheet.rateIt),
    cutoffV: hint(sheet.cutoffV) ?? hint(usualCutoffV, 'chemistry'),
    temperatureC: hint(sheet.temperatureC),
    acResistance: hint(sheet.acResistanceMohm),
  };

  const submit = () => {
    if ('problem' in claim) return setProblem(claim.problem);
    const quantity = typedNumber(order.quantity);
    const price = typedNumber(order.price);
    if (!order.supplierName.trim()) return setProblem('Supplier: expected a name.');
    if (!Number.isInteger(quantity) || quantity! < 1)
      return setProblem(
        `Cells counted: expected a whole number of at least 1; found “${order.quantity}”.`,
      );
    if (Number.isNaN(price)) return setProblem(`Price: expected a number; found “${order.price}”.`);
    if (modelId === '') return setProblem('Cell model: choose one, or describe a new one.');
    const bad = chosen
      ? null
      : MODEL_NUMBERS.find((name) => Number.isNaN(modelNumbers(newModel)[name]));
    if (bad) return setProblem(`Model: expected a number; found “${newModel[bad]}”.`);
    const model: NewLot['model'] = chosen
      ? { id: chosen.id }
      : { ...newModel, ...modelNumbers(newModel) };
    startTransition(async () => {
      const outcome = await takeInLotAct({
        title: order.title,
        supplierName: order.supplierName,
        model,
        quantity: quantity!,
        price,
        orderedOn: order.orderedOn || null,
        arrivedOn: order.arrivedOn || null,
        claim: claim.claim,
      });
      if (outcome.ok) router.push(`/lots/${outcome.data.code}/logs`);
      else setProblem(outcome.message);
    });
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
            <input
              className="field"
              autoFocus
              value={order.title}
              onChange={(event) => set({ title: event.target.value })}
            />
          </Label>
          <Label text="Supplier">
            <input
              className="field"
              list={listId}
              value={order.supplierName}
              onChange={(event) => set({ supplierName: event.target.value })}
            />
            <datalist id={listId}>
              {suppliers.map((name) => (
                <option key={name} value={name} />
              ))}
            </datalist>
          </Label>
          <Label text="Cells counted">
            <input
              className="field"
              inputMode="numeric"
              value={order.quantity}
              onChange={(event) => set({ quantity: event.target.value })}
            />
          </Label>
          <Label text="Ordered on">
            <input
              className="field"
              type="date"
              value={order.orderedOn}
              onChange={(event) => set({ orderedOn: event.target.value })}
            />
          </Label>
          <Label text="Arrived on">
            <input
              className="field"
              type="date"
              value={order.arrivedOn}
              onChange={(event) => set({ arrivedOn: event.target.value })}
            />
          </Label>
          <Label text="Price / EUR">
            <input
              className="field"
              inputMode="decimal"
              value={order.price}
              onChange={(event) => set({ price: event.target.value })}
            />
          </Label>
        </div>
      </Group>
      <Group title="Cell model">
        <Label text="Model">
          <select
            className="field sm:max-w-sm"
            value={modelId}
            onChange={(event) => setModelId(event.target.value)}
          >
            {models.length > 0 && <option value="">Choose the model …</option>}
            {models.map((model) => (
              <option key={model.id} value={model.id}>
                {model.name}
              </option>
            ))}
            <option value="new">A new model …</option>
          </select>
        </Label>
        {modelId === 'new' && <ModelFields draft={newModel} onChange={setNewModel} />}
      </Group>
      <Group title="What was claimed">
        <ClaimFields draft={draft} onChange={setDraft} inherited={inherited} />
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
