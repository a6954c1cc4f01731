import { CHEMISTRIES, type Chemistry, envelopeOfSizeCode } from '../chemistry';
import type { ClaimKind } from './claim';

/** One thing found in an offer's text. */
export interface OfferHint {
  kind: ClaimKind | 'chemistry' | 'sizeCode' | 'price' | 'currency';
  value: number | null;
  text: string | null;
  /** The words it was read from. */
  from: string;
}

/** Bounded, so that a text of nothing but digits is read in one go. */
const NUMBER = String.raw`(?<![\d.,]|\d[eE][+-]?)(\d{1,7}(?:[.,]\d{1,6})?)`;
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
    pattern: new RegExp(`${NUMBER}\\s{0,4}(mΩ|m\\s?[Oo](?:hm|HM)s?)(?![A-Za-z])`, 'g'),
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
    pattern:
      /(?<!\d)(\d{1,4})[\s-]{0,3}(days?)\s{1,4}(?:to\s{1,4}|for\s{1,4})?(?:returns?|disputes?|refunds?|complaints?|complain)\b/gi,
    factor: () => 1,
  },
  {
    kind: 'disputeWindow',
    pattern:
      /\b(?:returns?|disputes?|refunds?|complaints?)\b[^.;\d\n]{0,40}?\s(\d{1,4})[\s-]{0,3}(days?)\b/gi,
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
    if (hints.some((hint) => hint.kind === kind)) continue;
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
  const cells = hints.find(({ kind }) => kind === 'quantity')?.value ?? null;
  return [...hints, ...priceIn(text, cells)];
}

/** Signs that stand for one currency; those of several (¥, kr) for none. */
const SIGNS: Readonly<Record<string, string>> = {
  '€': 'EUR',
  '£': 'GBP',
  $: 'USD',
  US$: 'USD',
  EURO: 'EUR',
  EUROS: 'EUR',
  RMB: 'CNY',
};
/** Codes that are no word of an offer, as ALL, TOP or TRY would be (ISO 4217). */
const CODES =
  'EUR(?:OS?)?|USD|GBP|CHF|CNY|RMB|JPY|SEK|NOK|DKK|PLN|CZK|HUF|CAD|AUD|NZD|HKD|SGD|INR|KRW|TWD|ZAR|BRL|MXN|AED|ILS';
const CURRENCY = String.raw`(US\$|[€£$]|${CODES})`;
const AMOUNT = String.raw`(?<![\d.,]|\d[eE][+-]?)(\d{1,3}(?:[.,\u00a0\u202f ']\d{3}){1,2}(?:[.,]\d{2})?|\d{1,9}(?:[.,]\d{1,4})?)(?![\d]|[.,]\d|[eE]\d)`;
const MONEY = [
  new RegExp(String.raw`(?<![A-Za-z$])${CURRENCY}\s{0,2}${AMOUNT}`, 'gi'),
  new RegExp(String.raw`${AMOUNT}\s{0,2}${CURRENCY}(?![A-Za-z])`, 'gi'),
];
/** Behind an amount: it is of one cell. */
const EACH =
  /^\s{0,3}(?:each|a piece|apiece|ea\b|(?:\/|per|a)\s{0,2}(?:pc|pcs|piece|cell|unit|st(?:ü|u)ck)\b)/i;

/** An amount of money as it is written: `1,360.00`, `1.360`, `12.5`; a group of three is no fraction of a cent. */
function amountOf(text: string): number {
  const plain = text.replace(/[\u00a0\u202f ']/g, '');
  const fraction = /[.,](\d{1,2}|\d{4})$/.exec(plain);
  const whole = fraction ? plain.slice(0, fraction.index) : plain;
  return Number(`${whole.replace(/[.,]/g, '')}.${fraction?.[1] ?? '0'}`);
}

/** The price of all, and its currency; of a price a piece, that times the cells that are named. */
function priceIn(text: string, cells: number | null): OfferHint[] {
  const found = MONEY.flatMap((pattern, i) =>
    [...text.matchAll(pattern)].flatMap((match) => {
      const [sign, amount] = i === 0 ? [match[1]!, match[2]!] : [match[2]!, match[1]!];
      const currency = SIGNS[sign.toUpperCase()] ?? sign.toUpperCase();
      const behind = EACH.exec(
        text.slice(match.index + match[0].length, match.index + match[0].length + 24),
      );
      return [
        { at: match.index, currency, amount: amountOf(amount), each: behind, from: match[0] },
      ];
    }),
  ).sort((a, b) => a.at - b.at);
  // The price of all says more than that of one.
  const one = found.find(({ each }) => each === null) ?? found[0];
  if (!one || !(one.amount > 0)) return [];
  const from = `${one.from}${one.each?.[0] ?? ''}`.trim();
  const price = one.each === null ? one.amount : cells === null ? null : one.amount * cells;
  return [
    ...(price === null
      ? []
      : [{ kind: 'price' as const, value: Number(price.toFixed(2)), text: null, from }]),
    { kind: 'currency' as const, value: null, text: one.currency, from },
  ];
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
