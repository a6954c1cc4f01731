import type { Chemistry } from '../../chemistry';
import { dayOf, daysInMonth } from './calendar';

/** What a code says about a cell. Parts it does not hold are null. */
export interface DecodedCode {
  /** Without blanks, in upper case. */
  code: string;
  /** Name of the rule that read it. */
  scheme: string;
  maker: string | null;
  product: 'pack' | 'module' | 'cell' | null;
  /** Chemistries the code allows; empty when it names none that is known here. */
  chemistries: Chemistry[];
  chemistryWords: string | null;
  specification: string | null;
  trace: string | null;
  /** First and last day of production that the code allows; equal when it names the day. */
  producedFrom: string | null;
  producedUntil: string | null;
  serial: string | null;
}

/** Why a code cannot be read. */
export interface CodeRefusal {
  reason:
    | 'empty'
    | 'length'
    | 'character'
    | 'product'
    | 'chemistry'
    | 'year'
    | 'month'
    | 'day'
    | 'noSuchDay'
    | 'afterArrival'
    | 'shape';
  /** What was found and what was expected. */
  message: string;
}

/** A traceability code as read, or why it cannot be read. */
export type CodeReading =
  ({ ok: true } & DecodedCode) | ({ ok: false; code: string } & CodeRefusal);

const PRODUCTS: Record<string, DecodedCode['product']> = { P: 'pack', M: 'module', C: 'cell' };
const KINDS: Record<string, [string, Chemistry[]]> = {
  A: ['NiMH', []],
  B: ['LFP', ['LFP']],
  C: ['LMO', ['LMO']],
  D: ['LCO', ['LCO']],
  E: ['ternary (NMC or NCA)', ['NMC']],
  F: ['supercapacitor', []],
  G: ['LTO', ['LTO']],
  Z: ['another chemistry', []],
};
const YEARS = '123456789ABCDEFGHJKLMNPRSTVWXY';
const MONTHS = '123456789ABC';
const DAYS = '123456789ABCDEFGHJKLMNPRSTVWXY0';
const LENGTH = 24;

/** A code as it is kept: no blanks, upper case. */
export function normaliseCode(text: string): string {
  return text.replace(/[\s\u200b\ufeff]+/g, '').toUpperCase();
}

/** A mark written by hand: kept as typed, unless it is long enough to be a code. */
export function asMark(text: string): string {
  const code = normaliseCode(text);
  return /^[0-9A-Z-]{12,}$/.test(code) ? code : text.trim();
}

/**
 * Reads a code after GB/T 34014-2017: 24 characters, by position maker (3), product, chemistry,
 * specification (2), traceability (7), year, month, day, serial number (7). Handbook, chapter 1.
 * @param context arrival day `YYYY-MM-DD`, when known: a production date after it is refused.
 */
export function decodeGbt34014(
  text: string,
  context: { arrivedOn?: string | null } = {},
): CodeReading {
  const code = normaliseCode(text);
  const refuse = (reason: CodeRefusal['reason'], message: string): CodeReading => ({
    ok: false,
    code,
    reason,
    message,
  });
  if (code === '') return refuse('empty', 'There is no code.');
  const odd = /[^0-9A-Z]/.exec(code);
  if (odd)
    return refuse(
      'character',
      `${code} has “${odd[0]}” at position ${odd.index + 1}; only digits and letters are expected.`,
    );
  if (code.length !== LENGTH)
    return refuse('length', `${code} has ${code.length} characters, ${LENGTH} are needed.`);
  const product = PRODUCTS[code[3]!];
  if (!product)
    return refuse(
      'product',
      `${code} has “${code[3]}” at position 4; P (pack), M (module) or C (cell) is expected.`,
    );
  const kind = KINDS[code[4]!];
  if (!kind)
    return refuse(
      'chemistry',
      `${code} has “${code[4]}” at position 5, which names no chemistry; A to G or Z is expected.`,
    );
  const date = dateOf(code);
  if ('reason' in date) return refuse(date.reason, date.message);
  if (context.arrivedOn && date.day > context.arrivedOn)
    return refuse(
      'afterArrival',
      `${code} says produced on ${date.day}, after its arrival on ${context.arrivedOn}.`,
    );
  return {
    ok: true,
    code,
    scheme: 'GB/T 34014-2017',
    maker: code.slice(0, 3),
    product,
    chemistries: kind[1],
    chemistryWords: kind[0],
    specification: code.slice(5, 7),
    trace: code.slice(7, 14),
    producedFrom: date.day,
    producedUntil: date.day,
    serial: code.slice(17),
  };
}

function dateOf(code: string): { day: string } | CodeRefusal {
  const [year, month, day] = [code[14]!, code[15]!, code[16]!];
  for (const [letter, reason, alphabet] of [
    [year, 'year', YEARS],
    [month, 'month', MONTHS],
    [day, 'day', DAYS],
  ] as const) {
    if (alphabet.includes(letter)) continue;
    const never = /[IOQUZ]/.test(letter) ? '; I, O, Q, U and Z are not used in dates' : '';
    return {
      reason,
      message: `${code} has ${reason} code ${letter}, which is no ${reason}${never}.`,
    };
  }
  const numbers = [2011 + YEARS.indexOf(year), 1 + MONTHS.indexOf(month), 1 + DAYS.indexOf(day)];
  const [y, m, d] = numbers as [number, number, number];
  if (d > daysInMonth(y, m))
    return {
      reason: 'noSuchDay',
      message: `${code} says day ${d} of month ${m} in ${y}, a day that month does not have.`,
    };
  return { day: dayOf(y, m, d) };
}
