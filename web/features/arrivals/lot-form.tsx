'use client';

import {
  CHEMISTRIES,
  CHEMISTRY_PROFILES,
  type Chemistry,
  claimPlausibility,
  envelopeOfSizeCode,
} from '@dusk-tally/core/chemistry';
import { useRouter } from 'next/navigation';
import { type ReactNode, useId, useState, useTransition } from 'react';
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

interface ModelDraft {
  name: string;
  chemistry: Chemistry;
  format: ModelOption['format'];
  diameterMm: string;
  widthMm: string;
  thicknessMm: string;
  heightMm: string;
  massG: string;
}

const NEW_MODEL: ModelDraft = {
  name: '',
  chemistry: 'LFP',
  format: 'prism',
  diameterMm: '',
  widthMm: '',
  thicknessMm: '',
  heightMm: '',
  massG: '',
};
const SIZES = ['diameterMm', 'widthMm', 'thicknessMm', 'heightMm', 'massG'] as const;

function Label({ text, children }: { text: string; children: ReactNode }) {
  return (
    <label className="block">
      <span className="mb-1 block text-quiet">{text}</span>
      {children}
    </label>
  );
}

function Group({ title, children }: { title: string; children: ReactNode }) {
  return (
    <fieldset className="panel p-5">
      <legend className="px-1.5 font-semibold">{title}</legend>
      {children}
    </fieldset>
  );
}

const sized = (draft: ModelDraft) =>
  Object.fromEntries(SIZES.map((name) => [name, typedNumber(draft[name])])) as Record<
    (typeof SIZES)[number],
    number | null
  >;

function envelopeFrom(
  model: Pick<ModelOption, 'format' | 'diameterMm' | 'widthMm' | 'thicknessMm' | 'heightMm'>,
) {
  const { format, diameterMm, widthMm, thicknessMm, heightMm } = model;
  if (format === 'cylinder')
    return diameterMm && heightMm ? ({ shape: 'cylinder', diameterMm, heightMm } as const) : null;
  return widthMm && thicknessMm && heightMm
    ? ({ shape: 'prism', widthMm, thicknessMm, heightMm } as const)
    : null;
}

function ModelFields({
  draft,
  onChange,
}: {
  draft: ModelDraft;
  onChange: (draft: ModelDraft) => void;
}) {
  const set = (patch: Partial<ModelDraft>) => onChange({ ...draft, ...patch });
  const rename = (name: string) => {
    const size = envelopeOfSizeCode(/\b(\d{5})\b/.exec(name)?.[1] ?? '');
    const known =
      size?.shape === 'cylinder' && !draft.diameterMm
        ? {
            format: 'cylinder' as const,
            diameterMm: String(size.diameterMm),
            heightMm: String(size.heightMm),
          }
        : {};
    set({ name, ...known });
  };
  const number = (name: (typeof SIZES)[number], text: string) => (
    <Label text={text}>
      <input
        className="field"
        inputMode="decimal"
        value={draft[name]}
        onChange={(event) => set({ [name]: event.target.value })}
      />
    </Label>
  );
  return (
    <div className="mt-3 grid gap-3 sm:grid-cols-4">
      <Label text="Name of the model">
        <input
          className="field"
          value={draft.name}
          onChange={(event) => rename(event.target.value)}
        />
      </Label>
      <Label text="Chemistry">
        <select
          className="field"
          value={draft.chemistry}
          onChange={(event) => set({ chemistry: event.target.value as Chemistry })}
        >
          {CHEMISTRIES.map((chemistry) => (
            <option key={chemistry} value={chemistry}>
              {CHEMISTRY_PROFILES[chemistry].label}
            </option>
          ))}
        </select>
      </Label>
      <Label text="Format">
        <select
          className="field"
          value={draft.format}
          onChange={(event) => set({ format: event.target.value as ModelDraft['format'] })}
        >
          <option value="cylinder">cylindrical</option>
          <option value="prism">prismatic</option>
          <option value="pouch">pouch</option>
        </select>
      </Label>
      {number('massG', 'Mass / g')}
      {draft.format === 'cylinder'
        ? number('diameterMm', 'Diameter / mm')
        : number('widthMm', 'Width / mm')}
      {draft.format !== 'cylinder' && number('thicknessMm', 'Thickness / mm')}
      {number('heightMm', 'Height / mm')}
    </div>
  );
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
  const ratedAh =
    ('claim' in claim ? claim.claim.find((item) => item.kind === 'capacity')?.value : null) ??
    chosen?.ratedAh ??
    null;
  const shape = chosen ?? { ...newModel, ...sized(newModel) };
  const plausibility =
    ratedAh && modelId !== ''
      ? claimPlausibility({
          ratedAh,
          chemistry: shape.chemistry,
          envelope: envelopeFrom(shape),
          massG: shape.massG,
        })
      : null;
  const fallback = (value: number | null | undefined, words: string) =>
    value === null || value === undefined ? undefined : `${value} (${words})`;
  const inherited = chosen
    ? {
        capacity: fallback(chosen.ratedAh, 'data sheet'),
        rateIt: fallback(chosen.rateIt, 'data sheet'),
        cutoffV: fallback(
          chosen.cutoffV ?? CHEMISTRY_PROFILES[chosen.chemistry].cutoffV,
          chosen.cutoffV ? 'data sheet' : 'chemistry',
        ),
        temperatureC: fallback(chosen.temperatureC, 'data sheet'),
        acResistance: fallback(chosen.acResistanceMohm, 'data sheet'),
      }
    : { cutoffV: fallback(CHEMISTRY_PROFILES[newModel.chemistry].cutoffV, 'chemistry') };

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
    const bad = chosen ? null : SIZES.find((name) => Number.isNaN(sized(newModel)[name]));
    if (bad) return setProblem(`Model: expected a number; found “${newModel[bad]}”.`);
    const model: NewLot['model'] = chosen ? { id: chosen.id } : { ...newModel, ...sized(newModel) };
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
