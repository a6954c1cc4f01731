import { BitReader, BitWriter } from './bits';

/**
 * Static range coding of small whole numbers (asymmetric numeral systems, words of 16 bits). A
 * block of symbols takes its order-0 entropy plus its table of frequencies.
 */

/** Lowest state of the coder; it stays below 2^31. */
const LOWEST = 1 << 15;

/**
 * A state below 2^31 times this over a frequency of at most 2^15, cut off, is their whole
 * quotient: what is added is less than what any quotient lies below the next whole number.
 */
const JUST_ABOVE_ONE = 1 + 2 ** -50;

/** Symbols that occur, ascending, and how often out of 2^scaleBits. */
interface Model {
  symbols: Int32Array;
  frequencies: Int32Array;
  /** Sum of the frequencies before each symbol. */
  starts: Int32Array;
  scaleBits: number;
}

const scaleBitsFor = (distinct: number): number =>
  distinct <= 128 ? 12 : distinct <= 512 ? 14 : 15;
/** Most distinct symbols one block may hold. */
export const MOST_SYMBOLS = 4096;

/** Frequencies that add up to 2^scaleBits, none of them 0. */
function modelOf(counts: Int32Array, largest: number, total: number): Model {
  let distinct = 0;
  for (let symbol = 0; symbol <= largest; symbol++) if (counts[symbol]! > 0) distinct++;
  const scaleBits = scaleBitsFor(distinct);
  const scale = 1 << scaleBits;
  const symbols = new Int32Array(distinct);
  const frequencies = new Int32Array(distinct);
  let at = 0;
  let sum = 0;
  let commonest = 0;
  for (let symbol = 0; symbol <= largest; symbol++) {
    const count = counts[symbol]!;
    if (count === 0) continue;
    symbols[at] = symbol;
    const frequency = Math.max(1, Math.round((count / total) * scale));
    frequencies[at] = frequency;
    if (frequency > frequencies[commonest]!) commonest = at;
    sum += frequency;
    at++;
  }
  // What rounding left over goes to, or comes from, the commonest ones: it costs least there.
  let left = scale - sum;
  if (left > 0) frequencies[commonest] = frequencies[commonest]! + left;
  while (left < 0) {
    let from = 0;
    for (let i = 1; i < distinct; i++) if (frequencies[i]! > frequencies[from]!) from = i;
    const take = Math.min(-left, Math.max(1, frequencies[from]! >> 4));
    frequencies[from] = frequencies[from]! - take;
    left += take;
  }
  return { symbols, frequencies, starts: startsOf(frequencies), scaleBits };
}

function startsOf(frequencies: Int32Array): Int32Array {
  const starts = new Int32Array(frequencies.length);
  for (let i = 1; i < frequencies.length; i++) starts[i] = starts[i - 1]! + frequencies[i - 1]!;
  return starts;
}

function writeModel({ symbols, frequencies, scaleBits }: Model, bits: BitWriter): void {
  bits.write(scaleBits - 12, 2);
  bits.writeGamma(symbols.length);
  let before = -1;
  for (let i = 0; i < symbols.length; i++) {
    bits.writeGamma(symbols[i]! - before);
    before = symbols[i]!;
    // The last frequency is what the others leave.
    if (i < symbols.length - 1) bits.writeGamma(frequencies[i]!);
  }
}

function readModel(bits: BitReader): Model {
  const scaleBits = 12 + bits.read(2);
  const distinct = bits.readGamma();
  if (distinct > MOST_SYMBOLS)
    throw new RangeError(`Trace block damaged: ${distinct} kinds of symbols.`);
  const symbols = new Int32Array(distinct);
  const frequencies = new Int32Array(distinct);
  let symbol = -1;
  let left = 1 << scaleBits;
  for (let i = 0; i < distinct; i++) {
    symbol += bits.readGamma();
    symbols[i] = symbol;
    frequencies[i] = i < distinct - 1 ? bits.readGamma() : left;
    left -= frequencies[i]!;
  }
  if (left !== 0 || frequencies[distinct - 1]! < 1)
    throw new RangeError('Trace block damaged: its frequencies do not add up.');
  return { symbols, frequencies, starts: startsOf(frequencies), scaleBits };
}

/**
 * Encodes symbols from 0 to 65535.
 * @param counts how often each occurs, at least up to the largest one.
 */
export function encodeSymbols(
  symbols: Uint16Array,
  counts: Int32Array,
  largest: number,
): Uint8Array {
  const n = symbols.length;
  const model = modelOf(counts, largest, n);
  const bits = new BitWriter();
  writeModel(model, bits);
  const table = bits.finish();
  const { scaleBits } = model;
  const frequencyOf = new Int32Array(largest + 1);
  const startOf = new Int32Array(largest + 1);
  const inverseOf = new Float64Array(largest + 1);
  model.symbols.forEach((symbol, i) => {
    frequencyOf[symbol] = model.frequencies[i]!;
    startOf[symbol] = model.starts[i]!;
    inverseOf[symbol] = JUST_ABOVE_ONE / model.frequencies[i]!;
  });
  const words = new Uint16Array(n + 2);
  let at = words.length;
  let state = LOWEST;
  // Each state below this can take a symbol of the frequency without leaving 31 bits.
  const room = (LOWEST >> scaleBits) << 16;
  // One symbol alone says nothing: the state stays where it is.
  const silent = model.symbols.length === 1;
  for (let i = silent ? -1 : n - 1; i >= 0; i--) {
    const symbol = symbols[i]!;
    const frequency = frequencyOf[symbol]!;
    if (state >= room * frequency) {
      words[--at] = state & 0xffff;
      state >>>= 16;
    }
    const quotient = (state * inverseOf[symbol]!) | 0;
    state = (quotient << scaleBits) + (state - quotient * frequency) + startOf[symbol]!;
  }
  const count = words.length - at;
  const encoded = new Uint8Array(table.length + 4 + 2 * count);
  encoded.set(table);
  const view = new DataView(encoded.buffer, table.length);
  view.setUint32(0, state, true);
  for (let i = 0; i < count; i++) view.setUint16(4 + 2 * i, words[at + i]!, true);
  return encoded;
}

/** The symbols `encodeSymbols` was given. @throws RangeError for a damaged block. */
export function decodeSymbols(encoded: Uint8Array, n: number): Uint16Array {
  const bits = new BitReader(encoded);
  const model = readModel(bits);
  const { scaleBits, symbols, frequencies, starts } = model;
  const scale = 1 << scaleBits;
  // What a slot stands for, its symbol’s frequency, and its place within it.
  const symbolAt = new Uint16Array(scale);
  const frequencyAt = new Int32Array(scale);
  const placeAt = new Int32Array(scale);
  for (let i = 0; i < symbols.length; i++) {
    const [start, frequency] = [starts[i]!, frequencies[i]!];
    symbolAt.fill(symbols[i]!, start, start + frequency);
    frequencyAt.fill(frequency, start, start + frequency);
    for (let k = 0; k < frequency; k++) placeAt[start + k] = k;
  }
  let at = bits.offset();
  if (at + 4 > encoded.length) throw new RangeError('Trace block damaged: it ends too soon.');
  const view = new DataView(encoded.buffer, encoded.byteOffset);
  let state = view.getUint32(at, true);
  at += 4;
  const mask = scale - 1;
  const decoded = new Uint16Array(n);
  const silent = symbols.length === 1;
  if (silent) decoded.fill(symbols[0]!);
  for (let i = silent ? n : 0; i < n; i++) {
    const slot = state & mask;
    decoded[i] = symbolAt[slot]!;
    state = frequencyAt[slot]! * (state >>> scaleBits) + placeAt[slot]!;
    if (state < LOWEST) {
      if (at + 2 > encoded.length) throw new RangeError('Trace block damaged: it ends too soon.');
      state = (state << 16) | encoded[at]! | (encoded[at + 1]! << 8);
      at += 2;
    }
  }
  if (state !== LOWEST || at !== encoded.length)
    throw new RangeError('Trace block damaged: its end does not fit.');
  return decoded;
}
