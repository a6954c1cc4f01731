import { MOST_SYMBOLS } from './entropy-coder';

/** Symbols are below this; what is larger is kept apart. */
export const TOP_SYMBOL = 65535;

/** Counts of symbols, one array used again for each block. */
export const countsOf = new Int32Array(TOP_SYMBOL + 1);

const folded = new Int32Array(TOP_SYMBOL + 1);

/** How codes are split into symbols and low bits, and about what that takes. */
export interface Split {
  shift: number;
  bits: number;
}

/** Rough cost of one entry of the table, bits. */
export const TABLE_BITS = 13;

/** A difference kept apart takes about this many bits. */
const APART_BITS = 48;

/** One more low bit beside the symbols is kept where it takes the whole below this share. */
const WORTH_A_SPLIT = 0.99;

/** Symbols of codes above their low bits, counted; larger ones are kept apart. */
export interface Counted {
  /** Largest symbol that occurs. */
  largest: number;
  apart: number;
  n: number;
}

/** The cheapest further split of what was counted, by folding neighbours together. */
export function foldBest({ largest, apart, n }: Counted, from: number): Split {
  if (n === 0) return { shift: from, bits: 0 };
  let top = Math.max(0, largest - 1);
  for (let symbol = 0; symbol <= top; symbol++) folded[symbol] = countsOf[symbol + 1]!;
  let best: Split = { shift: -1, bits: Infinity };
  for (let shift = from; ; shift++) {
    let bits = (n - apart) * shift + apart * APART_BITS;
    let distinct = 0;
    for (let symbol = 0; symbol <= top; symbol++) {
      const count = folded[symbol]!;
      if (count === 0) continue;
      distinct++;
      bits -= count * Math.log2(count / n);
    }
    bits += distinct * TABLE_BITS;
    if (distinct < MOST_SYMBOLS && bits < WORTH_A_SPLIT * best.bits) best = { shift, bits };
    else if (best.shift >= 0) return best;
    if (top === 0) return best.shift >= 0 ? best : { shift, bits };
    for (let symbol = 0; symbol <= top; symbol += 2)
      folded[symbol >> 1] = folded[symbol]! + (symbol < top ? folded[symbol + 1]! : 0);
    top >>= 1;
  }
}
