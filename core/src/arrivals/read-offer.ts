import { CHEMISTRIES, type Chemistry, envelopeOfSizeCode } from '../chemistry';
import type { ClaimKind } from './claim';

/** One thing found in an offer's text. */
export interface OfferHint {
  kind: ClaimKind | 'chemistry' | 'sizeCode';
  value: number | null;
  text: string | null;
  /** The words it was read from. */
  from: string;
}

/** Bounded, so that a text of nothing but digits is read in one go. */
const NUMBER = String.raw`(?<![\d.,])(\d{1,7}(?:[.,]\d{1,6})?)`;
/** Longer offers say nothing more. */
const LONGEST_OFFER = 50_000;
const numberOf = (text: string): number => Number(text.replace(',', '.'));

const NUMBERED: { kind: ClaimKind; pattern: RegExp; factor: (unit: string) => number }[] = [
  {
    kind: 'capacity',
    pattern: new RegExp(`${NUMBER}\\s{0,4}(mAh|Ah)\\b`, 'gi'),
    factor: (unit) => (unit.toLowerCase() === 'mah' ? 0.001 : 1),
  },
  {
    kind: 'acResistance',
    pattern: new RegExp(`${NUMBER}\\s{0,4}(mΩ|mohm|m\\s?ohms?)(?![a-z])`, 'g'),
    factor: () => 1,
  },
  {
    kind: 'mass',
    pattern: new RegExp(`${NUMBER}\\s{0,4}(kg|g|grams?)\\b`, 'gi'),
    factor: (unit) => (unit.toLowerCase() === 'kg' ? 1000 : 1),
  },
  {
    kind: 'quantity',
    pattern: /(?<!\d)(\d{1,7})\s{0,4}(pcs|pieces|cells|pc)\b/gi,
    factor: () => 1,
  },
  {
    kind: 'disputeWindow',
    pattern: /(?<!\d)(\d{1,4})[\s-]{0,3}(days?)\s{1,4}(?:return|dispute|refund|complaint)/gi,
    factor: () => 1,
  },
];

/**
 * Reads what an offer's text claims, as suggestions for a person to accept: every hint says from
 * which words it came. Nothing is guessed that the text does not say.
 */
export function readOffer(whole: string): OfferHint[] {
  const text = whole.slice(0, LONGEST_OFFER);
  const hints: OfferHint[] = [];
  for (const { kind, pattern, factor } of NUMBERED) {
    const match = [...text.matchAll(pattern)].find(
      (candidate) => kind !== 'quantity' || !envelopeOfSizeCode(candidate[1]!),
    );
    if (!match) continue;
    const value = Number((numberOf(match[1]!) * factor(match[2]!)).toPrecision(12));
    if (value > 0) hints.push({ kind, value, text: null, from: match[0].trim() });
  }
  const condition = /\b(brand new|unused|new|used|reclaimed|second[- ]hand)\b/i.exec(text);
  if (condition)
    hints.push({
      kind: 'condition',
      value: null,
      text: condition[1]!.toLowerCase().replace('brand ', ''),
      from: condition[0],
    });
  const grade = /\b(?:grade\s{1,4}([a-z0-9+]{1,3})|(first|second|third)\s+grade)\b/i.exec(text);
  if (grade) hints.push({ kind: 'grade', value: null, text: grade[0], from: grade[0] });
  const size = /(?<!\d)(\d{5})(?!\d)/.exec(text);
  if (size && envelopeOfSizeCode(size[1]!))
    hints.push({ kind: 'sizeCode', value: null, text: size[1]!, from: size[0] });
  const chemistry = chemistryIn(text);
  if (chemistry) hints.push(chemistry);
  return hints;
}

function chemistryIn(text: string): OfferHint | null {
  const names: [RegExp, Chemistry][] = [
    [/\b(LFP|LiFePO4)\b/i, 'LFP'],
    [/\b(NMC|NCA)\b/i, 'NMC'],
    [/\b(LTO|lithium titanate)\b/i, 'LTO'],
    [/\b(sodium[- ]ion|Na-ion)\b/i, 'sodium-ion'],
    [/\bLCO\b/i, 'LCO'],
    [/\bLMO\b/i, 'LMO'],
  ];
  for (const [pattern, chemistry] of names) {
    const match = pattern.exec(text);
    if (match && CHEMISTRIES.includes(chemistry))
      return { kind: 'chemistry', value: null, text: chemistry, from: match[0] };
  }
  return null;
}
