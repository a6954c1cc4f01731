'use client';

import { CLAIM_WORDS, type ClaimKind } from '@dusk-tally/core/arrivals';
import { parseQuantity } from '@dusk-tally/core/units';
import { Plus, Trash2 } from 'lucide-react';
import { Button } from '@/kit/button';

/** A claim as typed, before it is checked. */
export interface ClaimDraft {
  capacity: string;
  rateIt: string;
  cutoffV: string;
  temperatureC: string;
  acResistance: string;
  others: { kind: ClaimKind; text: string }[];
}

export const EMPTY_CLAIM: ClaimDraft = {
  capacity: '',
  rateIt: '',
  cutoffV: '',
  temperatureC: '',
  acResistance: '',
  others: [],
};

const NUMBERED = new Set<ClaimKind>([
  'dcResistance',
  'maxCharge',
  'maxDischarge',
  'mass',
  'quantity',
  'disputeWindow',
]);
const UNIT: Partial<Record<ClaimKind, string>> = {
  dcResistance: 'mΩ',
  maxCharge: 'A',
  maxDischarge: 'A',
  mass: 'g',
  quantity: 'cells',
  disputeWindow: 'days',
};
const OTHERS = (Object.keys(CLAIM_WORDS) as ClaimKind[]).filter(
  (kind) => kind !== 'capacity' && kind !== 'acResistance',
);

/** A bare number with decimal comma or point; null when blank, NaN when it is none. */
export function typedNumber(text: string): number | null {
  const trimmed = text.trim().replace(',', '.');
  return trimmed === '' ? null : /^-?\d*\.?\d+$/.test(trimmed) ? Number(trimmed) : NaN;
}

interface ClaimItemInput {
  kind: ClaimKind;
  value?: number | null;
  text?: string | null;
  conditions?: { rateIt?: number; cutoffV?: number; temperatureC?: number };
}

/** The typed claim as items, or what is wrong with it. */
export function claimFromDraft(
  draft: ClaimDraft,
): { claim: ClaimItemInput[] } | { problem: string } {
  const claim: ClaimItemInput[] = [];
  const conditions: NonNullable<ClaimItemInput['conditions']> = {};
  for (const [name, words] of [
    ['rateIt', 'Rate'],
    ['cutoffV', 'Cut-off'],
    ['temperatureC', 'Temperature'],
  ] as const) {
    const value = typedNumber(draft[name]);
    if (Number.isNaN(value))
      return { problem: `${words}: expected a number; found “${draft[name]}”.` };
    if (value !== null) conditions[name] = value;
  }
  for (const [name, kind, quantity] of [
    ['capacity', 'capacity', 'capacityAh'],
    ['acResistance', 'acResistance', 'resistanceMohm'],
  ] as const) {
    if (draft[name].trim() === '') continue;
    const parsed = parseQuantity(draft[name], quantity);
    if (!parsed.ok) return { problem: `${CLAIM_WORDS[kind]}: ${parsed.message}` };
    claim.push({ kind, value: parsed.value, conditions: kind === 'capacity' ? conditions : {} });
  }
  for (const { kind, text } of draft.others) {
    if (text.trim() === '') continue;
    const value = typedNumber(text);
    if (NUMBERED.has(kind) && (value === null || Number.isNaN(value)))
      return { problem: `${CLAIM_WORDS[kind]}: expected a number; found “${text}”.` };
    claim.push(NUMBERED.has(kind) ? { kind, value } : { kind, text });
  }
  return { claim };
}

function Field({
  label,
  hint,
  value,
  onChange,
}: {
  label: string;
  hint?: string;
  value: string;
  onChange: (value: string) => void;
}) {
  return (
    <label className="block">
      <span className="mb-1 block text-quiet">{label}</span>
      <input
        className="field"
        inputMode="decimal"
        value={value}
        placeholder={hint}
        onChange={(event) => onChange(event.target.value)}
      />
    </label>
  );
}

/** What the supplier claims, item by item with its conditions. */
export function ClaimFields({
  draft,
  onChange,
  inherited,
}: {
  draft: ClaimDraft;
  onChange: (draft: ClaimDraft) => void;
  inherited: Partial<Record<keyof ClaimDraft, string>>;
}) {
  const set = (patch: Partial<ClaimDraft>) => onChange({ ...draft, ...patch });
  const field = (name: Exclude<keyof ClaimDraft, 'others'>, label: string) => (
    <Field
      label={label}
      hint={inherited[name]}
      value={draft[name]}
      onChange={(value) => set({ [name]: value })}
    />
  );
  const unused = OTHERS.find((kind) => !draft.others.some((other) => other.kind === kind));
  return (
    <div className="space-y-4">
      <div className="grid gap-3 sm:grid-cols-4">
        {field('capacity', 'Capacity at least / Ah')}
        {field('rateIt', 'at a rate of / It')}
        {field('cutoffV', 'down to / V')}
        {field('temperatureC', 'at / °C')}
      </div>
      <div className="grid gap-3 sm:grid-cols-4">
        {field('acResistance', 'AC resistance at most / mΩ')}
      </div>
      {draft.others.map((other, i) => {
        const replace = (patch: Partial<typeof other>) =>
          set({ others: draft.others.map((o, k) => (k === i ? { ...o, ...patch } : o)) });
        return (
          <div key={i} className="grid grid-cols-[minmax(0,14rem)_1fr_auto] items-end gap-3">
            <label>
              <span className="sr-only">Kind of item</span>
              <select
                className="field"
                value={other.kind}
                onChange={(event) => replace({ kind: event.target.value as ClaimKind })}
              >
                {OTHERS.filter(
                  (kind) => kind === other.kind || !draft.others.some((o) => o.kind === kind),
                ).map((kind) => (
                  <option key={kind} value={kind}>
                    {CLAIM_WORDS[kind]}
                    {UNIT[kind] ? ` / ${UNIT[kind]}` : ''}
                  </option>
                ))}
              </select>
            </label>
            <label>
              <span className="sr-only">{CLAIM_WORDS[other.kind]}</span>
              <input
                className="field"
                value={other.text}
                onChange={(event) => replace({ text: event.target.value })}
              />
            </label>
            <Button
              look="bare"
              aria-label={`Remove ${CLAIM_WORDS[other.kind]}`}
              onClick={() => set({ others: draft.others.filter((_, k) => k !== i) })}
            >
              <Trash2 size={16} />
            </Button>
          </div>
        );
      })}
      {unused && (
        <Button
          look="bare"
          onClick={() => set({ others: [...draft.others, { kind: unused, text: '' }] })}
        >
          <Plus size={16} aria-hidden /> Further item
        </Button>
      )}
    </div>
  );
}
