import {
  CLAIM_ITEMS,
  CLAIM_KINDS,
  type ClaimConditions,
  type ClaimKind,
  type ConditionName,
  type ConditionSpec,
} from '@dusk-tally/core/arrivals';
import { parseClearQuantity, type TypedQuantity } from '@dusk-tally/core/units';
import { typedNumber } from '@/kit/typed-number';

/** One item as typed: its value or words, and its conditions. */
export interface ItemDraft {
  value: string;
  conditions: Partial<Record<ConditionName, string>>;
}

/** A claim as typed, before it is checked: the items that are shown. */
export type ClaimDraft = Partial<Record<ClaimKind, ItemDraft>>;

/** Items that are always asked for. */
export const ALWAYS: readonly ClaimKind[] = ['capacity', 'acResistance'];

const blank = (): ItemDraft => ({ value: '', conditions: {} });
export const EMPTY_CLAIM: ClaimDraft = { capacity: blank(), acResistance: blank() };

const QUANTITY: Partial<Record<ClaimKind, TypedQuantity>> = {
  capacity: 'capacityAh',
  acResistance: 'resistanceMohm',
  dcResistance: 'resistanceMohm',
  maxCharge: 'currentA',
  maxDischarge: 'currentA',
  mass: 'massG',
};

export interface ClaimItemInput {
  kind: ClaimKind;
  value?: number | null;
  text?: string | null;
  conditions?: ClaimConditions;
}

function conditionOf(spec: ConditionSpec, text: string): number | string {
  if (spec.choices !== undefined) return text.trim();
  const value = typedNumber(text);
  if (Number.isNaN(value))
    throw new Error(`${spec.words}: expected a number in ${spec.unit}; found “${text}”.`);
  return value!;
}

function itemOf(kind: ClaimKind, draft: ItemDraft): ClaimItemInput | null {
  const { input, conditions: specs } = CLAIM_ITEMS[kind];
  const conditions = Object.fromEntries(
    specs.flatMap((spec) => {
      const text = draft.conditions[spec.name]?.trim() ?? '';
      return text === '' ? [] : [[spec.name, conditionOf(spec, text)]];
    }),
  ) as ClaimConditions;
  const text = draft.value.trim();
  if (text === '') {
    if (Object.keys(conditions).length === 0) return null;
    // Conditions of a capacity count even when its value is left to the data sheet.
    if (kind === 'capacity') return { kind, value: null, conditions };
    throw new Error('expected a value beside its conditions.');
  }
  if (input !== 'number') return { kind, text, conditions };
  const quantity = QUANTITY[kind];
  if (quantity) {
    const parsed = parseClearQuantity(text, quantity);
    if (!parsed.ok) throw new Error(parsed.message);
    return { kind, value: parsed.value, conditions };
  }
  const value = typedNumber(text);
  if (value === null || Number.isNaN(value)) throw new Error(`expected a number; found “${text}”.`);
  return { kind, value, conditions };
}

/** The typed claim as items, or what is wrong with it. */
export function claimFromDraft(
  draft: ClaimDraft,
): { claim: ClaimItemInput[] } | { problem: string } {
  const claim: ClaimItemInput[] = [];
  for (const kind of CLAIM_KINDS) {
    const typed = draft[kind];
    if (!typed) continue;
    try {
      const item = itemOf(kind, typed);
      if (item) claim.push(item);
    } catch (error) {
      return { problem: `${CLAIM_ITEMS[kind].words}: ${(error as Error).message}` };
    }
  }
  return { claim };
}

/** A stored claim as it would have been typed. */
export function draftOf(
  items: readonly {
    kind: ClaimKind;
    value: number | null;
    text: string | null;
    conditions: ClaimConditions;
  }[],
): ClaimDraft {
  const draft: ClaimDraft = { ...EMPTY_CLAIM };
  for (const { kind, value, text, conditions } of items)
    draft[kind] = {
      value: text ?? (value === null ? '' : String(value)),
      conditions: Object.fromEntries(
        Object.entries(conditions).map(([name, condition]) => [name, String(condition)]),
      ),
    };
  return draft;
}

/** An amount, or a share of the price for a discount typed as `4 %`; NaN when it is none. */
export function costOf(text: string, price: string): number | null {
  const share = /^(.*)%$/.exec(text.trim());
  if (!share) return typedNumber(text, 'money');
  const of = typedNumber(price, 'money');
  const percent = typedNumber(share[1]!);
  return of === null || percent === null ? NaN : Math.round(of * percent) / 100;
}
