import { deflateSync } from 'fflate';
import { BitWriter } from './bits';
import { ByteWriter } from './bytes';
import { encodeSymbols } from './entropy-coder';
import { BLOCK_ROWS, BLOCK_VERSION } from './block-format';
import { writeLow, zigzag } from './low-bits';
import {
  type Counted,
  countsOf,
  foldBest,
  type Split,
  TABLE_BITS,
  TOP_SYMBOL,
} from './split-codes';

/** Of larger integers twice a second difference would no longer be exact. */
const LARGEST = 2 ** 50;

/** Columns longer than this choose their order by a part of them. */
const SAMPLED_FROM = 12288;

const SAMPLED = 2048;

/** Buffers that live on from block to block: filling fresh memory costs more than coding it. */
const integersOf = new Float64Array(BLOCK_ROWS);

/** The same where all of them are small: whole arithmetic is quicker. */
const smallOf = new Int32Array(BLOCK_ROWS);

/** Twice a second difference of such integers stays within 31 bits. */
const SMALL = 2 ** 27;

let isSmall = false;

const symbolsOf = new Uint16Array(BLOCK_ROWS);

/**
 * Samples as integers into `integersOf`; a missing one repeats the one before.
 * @returns bitmap of those missing, or null.
 */
function scaleIn(values: Float64Array, decimals: number): Uint8Array | null {
  const n = values.length;
  const scale = 10 ** decimals;
  let missing: Uint8Array | null = null;
  let last = 0;
  isSmall = true;
  for (let i = 0; i < n; i++) {
    const scaled = values[i]! * scale;
    if (scaled < SMALL && scaled > -SMALL) {
      // A logged value lies next to a whole number, never half-way: cutting off rounds it.
      const whole = (scaled < 0 ? scaled - 0.5 : scaled + 0.5) | 0;
      last = whole;
      integersOf[i] = whole;
      smallOf[i] = whole;
      continue;
    }
    const value = Math.round(scaled);
    if (value <= LARGEST && value >= -LARGEST) last = value;
    else if (Number.isNaN(value)) {
      missing ??= new Uint8Array(Math.ceil(n / 8));
      missing[i >> 3] = missing[i >> 3]! | (1 << (i & 7));
    } else {
      throw new RangeError(
        Number.isFinite(values[i]!)
          ? `Row ${i + 1}: a value of ${values[i]} with ${decimals} decimals is too large to be stored exactly.`
          : `Row ${i + 1}: expected a finite number; found one without end (${values[i]}).`,
      );
    }
    integersOf[i] = last;
    smallOf[i] = last;
    if (!(last < SMALL && last > -SMALL)) isSmall = false;
  }
  return missing;
}

/** What values of order 0 are counted from: one from the middle of the block. */
let base = 0;

/** Zigzag difference of the given order at a sample that has as many before it. */
function codeAt(order: number, i: number): number {
  const value = integersOf[i]!;
  const difference =
    order === 0
      ? value - base
      : order === 1
        ? value - integersOf[i - 1]!
        : value - 2 * integersOf[i - 1]! + integersOf[i - 2]!;
  return difference >= 0 ? difference * 2 : -difference * 2 - 1;
}

/** Stretches of samples, first and behind the last. */
type Parts = readonly (readonly [number, number])[];

/** Largest symbol counted last: no more than that need be cleared. */
let countedTo = TOP_SYMBOL;

function countIn(order: number, shift: number, parts: Parts): Counted {
  const divisor = 2 ** shift;
  countsOf.fill(0, 0, countedTo + 1);
  let largest = 0;
  let apart = 0;
  let n = 0;
  for (const [from, to] of parts) {
    if (isSmall) {
      const counted = countSmall(order, shift, { from, to, at: n });
      largest = Math.max(largest, counted.largest);
      apart += counted.apart;
      n = counted.n;
      continue;
    }
    for (let i = from + order; i < to; i++) {
      const code = codeAt(order, i);
      const high = shift === 0 ? code : Math.floor(code / divisor);
      const symbol = high < TOP_SYMBOL ? high + 1 : 0;
      if (symbol === 0) apart++;
      symbolsOf[n++] = symbol;
      countsOf[symbol] = countsOf[symbol]! + 1;
      if (symbol > largest) largest = symbol;
    }
  }
  countedTo = largest;
  return { largest, apart, n };
}

/** `countIn` over one stretch of small integers, its symbols put from `at` on. */
function countSmall(
  order: number,
  shift: number,
  { from, to, at }: { from: number; to: number; at: number },
): Counted {
  let largest = 0;
  let apart = 0;
  let n = at;
  const start = from + order;
  if (start >= to) return { largest, apart, n };
  // What is subtracted: a fixed value, the one before, or that and the last difference.
  let before = order === 0 ? base : smallOf[start - 1]!;
  let slope = order === 2 ? before - smallOf[start - 2]! : 0;
  for (let i = start; i < to; i++) {
    const value = smallOf[i]!;
    let difference = (value - before) | 0;
    if (order > 0) {
      before = value;
      if (order === 2) {
        const first = difference;
        difference = (first - slope) | 0;
        slope = first;
      }
    }
    const high = ((difference << 1) ^ (difference >> 31)) >> shift;
    const symbol = high < TOP_SYMBOL ? high + 1 : 0;
    if (symbol === 0) apart++;
    symbolsOf[n++] = symbol;
    countsOf[symbol] = countsOf[symbol]! + 1;
    if (symbol > largest) largest = symbol;
  }
  return { largest, apart, n };
}

/** Low bits below which nearly all codes are symbols. */
function leastShift(order: number, parts: Parts): number {
  const lengths = new Uint32Array(56);
  let n = 0;
  for (const [from, to] of parts)
    for (let i = from + order; i < to; i++) {
      const code = codeAt(order, i);
      const length = code < 2 ** 31 ? 32 - Math.clz32(code) : Math.ceil(Math.log2(code + 1));
      lengths[length] = lengths[length]! + 1;
      n++;
    }
  let apart = 0;
  let longest = 55;
  while (longest > 0 && apart + lengths[longest]! <= n >> 10) apart += lengths[longest--]!;
  return Math.max(0, longest - 15);
}

/** Counts codes with as few low bits as may be, and says how they are split best. */
function splitOf(order: number, parts: Parts): Split & { counted: Counted } {
  const counted = countIn(order, 0, parts);
  const direct = { ...foldBest(counted, 0), counted };
  const least = counted.apart > 0 ? leastShift(order, parts) : 0;
  if (least === 0) return direct;
  const shifted = countIn(order, least, parts);
  const split = { ...foldBest(shifted, least), counted: shifted };
  if (split.bits < direct.bits) return split;
  return { ...direct, counted: countIn(order, 0, parts) };
}

/** The order of differences that takes least, from all samples or a part of many. */
function bestOrder(n: number): number {
  // Beginning, middle and end together show a drift over the block that none shows by itself.
  const middle = (n - SAMPLED) >> 1;
  const parts: Parts =
    n > SAMPLED_FROM
      ? [
          [0, SAMPLED],
          [middle, middle + SAMPLED],
          [n - SAMPLED, n],
        ]
      : [[0, n]];
  // Steady steps, as of a clock, are told at once; their values would be the longest to look at.
  const steps = n > 1 ? splitOf(1, parts).bits : Infinity;
  if (steps <= TABLE_BITS) return 1;
  let best = { order: 0, bits: Infinity };
  for (const order of [0, 1, 2]) {
    if (order > 0 && n <= order) break;
    const bits = order === 1 ? steps : splitOf(order, parts).bits;
    // Where differences take more than values do, differences of those take more still.
    if (bits >= best.bits) break;
    best = { order, bits };
  }
  return best.order;
}

/**
 * Encodes one column without loss at `decimals` digits after the point; NaN is kept as missing.
 * The order of differences with the least order-0 entropy is chosen and entropy coded.
 * @throws RangeError for more than BLOCK_ROWS samples or a value too large for its decimals.
 */
export function encodeColumn(values: Float64Array, decimals: number): Uint8Array {
  const n = values.length;
  if (n > BLOCK_ROWS)
    throw new RangeError(`Expected at most ${BLOCK_ROWS} samples in a block; found ${n}.`);
  const missing = scaleIn(values, decimals);
  base = n > 0 ? integersOf[n >> 1]! : 0;
  const order = bestOrder(n);
  const whole: Parts = [[0, n]];
  const split = splitOf(order, whole);
  const { shift } = split;
  // Where no low bits are kept, what was counted are the symbols already.
  const counted = shift === 0 ? split.counted : countIn(order, shift, whole);
  const out = new ByteWriter();
  out.byte(BLOCK_VERSION);
  out.byte(order);
  out.byte(decimals);
  out.byte((missing ? 1 : 0) | (counted.apart > 0 ? 2 : 0));
  out.whole(n);
  out.whole(shift);
  if (order === 0) out.whole(zigzag(base));
  for (let i = 0; i < Math.min(order, n); i++) out.whole(zigzag(integersOf[i]!));
  if (missing) {
    const packed = deflateSync(missing, { level: 6 });
    out.whole(packed.length);
    out.put(packed);
  }
  if (counted.apart > 0) writeApart(out, order, counted);
  if (counted.n > 0) {
    const coded = encodeSymbols(symbolsOf.subarray(0, counted.n), countsOf, counted.largest);
    out.whole(coded.length);
    out.put(coded);
    if (shift > 0) out.put(lowBits(order, shift, counted.n));
  }
  return out.finish();
}

function writeApart(out: ByteWriter, order: number, { n, apart }: Counted): void {
  out.whole(apart);
  let before = 0;
  for (let i = 0; i < n; i++) {
    if (symbolsOf[i] !== 0) continue;
    out.whole(i - before);
    out.whole(codeAt(order, i + order));
    before = i;
  }
}

/** The bits of values below a shift, packed; `order` says how many differences were taken before. */
export function lowBits(order: number, shift: number, n: number): Uint8Array {
  const out = new BitWriter();
  const divisor = 2 ** shift;
  for (let i = 0; i < n; i++) {
    const symbol = symbolsOf[i]!;
    if (symbol > 0) writeLow(out, codeAt(order, i + order) - (symbol - 1) * divisor, shift);
  }
  return out.finish();
}
