import { type Clamping, CLAMPING_WORDS } from '../chemistry';

/** Kinds of claim item (handbook, chapter 1, "The claim"). */
export const CLAIM_KINDS = [
  'capacity',
  'acResistance',
  'dcResistance',
  'maxCharge',
  'maxDischarge',
  'grade',
  'condition',
  'producedAfter',
  'mass',
  'size',
  'quantity',
  'disputeWindow',
] as const;
/** Code of one of the twelve kinds of claim (handbook, chapter 1). */
export type ClaimKind = (typeof CLAIM_KINDS)[number];

/** Conditions of a claim item; absent ones are inherited from the model, then the chemistry. */
export interface ClaimConditions {
  /** Discharge rate, It. */
  rateIt?: number;
  cutoffV?: number;
  chargeV?: number;
  /** Charge ends at this current, It. */
  taperIt?: number;
  temperatureC?: number;
  restMinutes?: number;
  statedAs?: 'minimum' | 'typical' | 'maximum' | 'range';
  /** Lower end of a range, in the item's unit; its value is the upper end. */
  low?: number;
  stateOfChargePct?: number;
  /** Length of a pulse, s; absent for a continuous current. */
  pulseS?: number;
  /** Currents of the resistance step, such as `0.2 / 1`, It. */
  stepIt?: string;
  /** How the cell was held for the figure. */
  clamping?: Clamping;
  tolerancePct?: number;
  paysReturnFreight?: 'buyer' | 'supplier';
}
/** Name of one condition a claim may be tied to, such as the current or the cut-off. */
export type ConditionName = keyof ClaimConditions;

/** How a condition is asked for and shown. */
export interface ConditionSpec {
  name: ConditionName;
  words: string;
  unit: string | null;
  /** Words of a choice; absent for a number, null for free text. */
  choices?: Readonly<Record<string, string>> | null;
}

/** What one kind of claim is called, its unit, and which conditions it can carry. */
export interface ClaimSpec {
  words: string;
  /** Null for an item in words. */
  unit: string | null;
  input: 'number' | 'text' | 'date';
  conditions: readonly ConditionSpec[];
}

const temperature = { name: 'temperatureC', words: 'at', unit: '°C' } as const;
const charged = { name: 'stateOfChargePct', words: 'at a state of charge of', unit: '%' } as const;
const low = { name: 'low', words: 'range from', unit: 'mΩ' } as const;
const tolerance = { name: 'tolerancePct', words: 'within ±', unit: '%' } as const;
const pulse = { name: 'pulseS', words: 'for a pulse of', unit: 's' } as const;
const resistanceAs = {
  name: 'statedAs',
  words: 'stated as',
  unit: null,
  choices: { maximum: 'highest', typical: 'typical', range: 'range up to' },
} as const;

/** Every item with the conditions that belong to it (handbook, chapter 1, "The claim"). */
export const CLAIM_ITEMS: Readonly<Record<ClaimKind, ClaimSpec>> = {
  capacity: {
    words: 'Capacity',
    unit: 'Ah',
    input: 'number',
    conditions: [
      { name: 'rateIt', words: 'at a rate of', unit: 'It' },
      { name: 'cutoffV', words: 'down to', unit: 'V' },
      temperature,
      {
        name: 'statedAs',
        words: 'stated as',
        unit: null,
        choices: { minimum: 'minimum', typical: 'typical' },
      },
      { name: 'chargeV', words: 'charged to', unit: 'V' },
      { name: 'taperIt', words: 'until', unit: 'It' },
      { name: 'restMinutes', words: 'rest after charge', unit: 'min' },
      { name: 'clamping', words: 'held', unit: null, choices: CLAMPING_WORDS },
    ],
  },
  acResistance: {
    words: 'AC resistance',
    unit: 'mΩ',
    input: 'number',
    conditions: [resistanceAs, low, charged, temperature],
  },
  dcResistance: {
    words: 'DC resistance',
    unit: 'mΩ',
    input: 'number',
    conditions: [
      resistanceAs,
      low,
      { name: 'stepIt', words: 'step between', unit: 'It', choices: null },
      { name: 'pulseS', words: 'after', unit: 's' },
      charged,
      temperature,
    ],
  },
  maxCharge: {
    words: 'Highest charge current',
    unit: 'A',
    input: 'number',
    conditions: [pulse],
  },
  maxDischarge: {
    words: 'Highest discharge current',
    unit: 'A',
    input: 'number',
    conditions: [pulse],
  },
  grade: { words: 'Grade', unit: null, input: 'text', conditions: [] },
  condition: { words: 'Condition', unit: null, input: 'text', conditions: [] },
  producedAfter: {
    words: 'Produced not before',
    unit: null,
    input: 'date',
    conditions: [],
  },
  mass: { words: 'Mass', unit: 'g', input: 'number', conditions: [tolerance] },
  size: { words: 'Size', unit: null, input: 'text', conditions: [tolerance] },
  quantity: { words: 'Quantity', unit: 'cells', input: 'number', conditions: [] },
  disputeWindow: {
    words: 'Dispute window',
    unit: 'days',
    input: 'number',
    conditions: [
      {
        name: 'paysReturnFreight',
        words: 'return freight paid by',
        unit: null,
        choices: { buyer: 'the buyer', supplier: 'the supplier' },
      },
    ],
  },
};

/** Each kind of claim as people say it. */
export const CLAIM_WORDS = Object.fromEntries(
  CLAIM_KINDS.map((kind) => [kind, CLAIM_ITEMS[kind].words]),
) as Record<ClaimKind, string>;

const NEW = /\b(new|unused|never used|fresh)\b/i;
/** Words that take it back: as good as new, not quite new, no longer unused. */
const NOT_NEW =
  /\b(as|like|nearly|almost|not|no longer|hardly|isn[’']t|aren[’']t)[ -](\w+[ -])?(new|unused|fresh)\b/i;

/**
 * Whether a supplier's word for the condition means cells that were never in use.
 * @example claimsNew(['as good as new']) // false
 */
export function claimsNew(words: readonly (string | null | undefined)[]): boolean {
  return words.some((text) => NEW.test(text ?? '') && !NOT_NEW.test(text ?? ''));
}
