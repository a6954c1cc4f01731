/** What the quick row reader needs of a table, column by column. */
export interface PlainTable {
  bytes: Uint8Array;
  delimiter: number;
  mark: number;
  /** Per column: where its values go, or null where they are of no use. */
  sinks: (Float64Array | null)[];
  /** Per column: most digits after the point so far. */
  decimals: Uint8Array;
}

const NEWLINE = 10;
const RETURN = 13;
const QUOTE = 34;
const HASH = 35;
const MINUS = 45;
const ZERO = 48;
/** Digits that a mantissa holds exactly. */
const MOST_DIGITS = 15;
const POWERS = Float64Array.from({ length: 23 }, (_, i) => 10 ** i);

const SHORT_DIGITS = 9;

/** Digits from one byte up to another as a number, whatever stands between them left out. */
function longMantissa(bytes: Uint8Array, from: number, to: number): number {
  let mantissa = 0;
  for (let at = from; at < to; at++) {
    const digit = bytes[at]! - ZERO;
    if (digit >= 0 && digit <= 9) mantissa = mantissa * 10 + digit;
  }
  return mantissa;
}

/** Where the quick reader stopped. */
export interface PlainEnd {
  /** Start of the first row it left. */
  at: number;
  /** Rows kept in all. */
  count: number;
  /** Line of that row, from 1. */
  row: number;
}

/**
 * Reads rows as long as they are plain: numbers without sign tricks, quotes, blanks or exponents,
 * one delimiter between them, a whole line each. The first row that is not, the last line and
 * lines beyond `most` rows are left to the careful reader, which has the same meaning.
 * @param from start of a row. @param until offset behind the last newline of the file.
 */
export function scanPlain(
  table: PlainTable,
  from: number,
  until: number,
  kept: number,
  most: number,
  line: number,
): PlainEnd {
  const { bytes, delimiter, mark, sinks, decimals } = table;
  const width = sinks.length;
  const last = width - 1;
  let at = from;
  let count = kept;
  let row = line;
  while (at < until && count < most) {
    const start = at;
    let byte = bytes[at]!;
    if (byte === HASH || byte === NEWLINE || byte === RETURN) return { at: start, count, row };
    for (let column = 0; column < width; column++) {
      const sink = sinks[column]!;
      if (sink === null) {
        byte = bytes[at]!;
        if (byte === QUOTE) return { at: start, count, row };
        while (byte !== delimiter && byte !== NEWLINE && byte !== RETURN) byte = bytes[++at]!;
      } else {
        byte = bytes[at]!;
        let negative = false;
        if (byte === MINUS) {
          negative = true;
          byte = bytes[++at]!;
        }
        let digit = (byte - ZERO) | 0;
        if (digit >>> 0 > 9) return { at: start, count, row };
        const first = at;
        let whole = digit;
        digit = (bytes[++at]! - ZERO) | 0;
        while (digit >>> 0 <= 9) {
          whole = (Math.imul(whole, 10) + digit) | 0;
          digit = (bytes[++at]! - ZERO) | 0;
        }
        byte = digit + ZERO;
        let places = 0;
        if (byte === mark && mark !== delimiter) {
          const point = at;
          digit = (bytes[++at]! - ZERO) | 0;
          while (digit >>> 0 <= 9) {
            whole = (Math.imul(whole, 10) + digit) | 0;
            digit = (bytes[++at]! - ZERO) | 0;
          }
          byte = digit + ZERO;
          places = at - point - 1;
          if (places > decimals[column]!) decimals[column] = places;
        }
        const length = at - first;
        if (length > MOST_DIGITS) return { at: start, count, row };
        // Up to nine digits stay whole in 32 bits; longer ones are read again.
        const mantissa = length <= SHORT_DIGITS ? whole : longMantissa(bytes, first, at);
        const value = places === 0 ? mantissa : mantissa / POWERS[places]!;
        sink[count] = negative ? 0 - value : value;
      }
      if (column < last) {
        if (byte !== delimiter) return { at: start, count, row };
        at++;
      }
    }
    if (byte === NEWLINE) at++;
    else if (byte === RETURN) at += bytes[at + 1] === NEWLINE ? 2 : 1;
    else return { at: start, count, row };
    count++;
    row++;
  }
  return { at, count, row };
}
