import { deflateSync, inflateSync } from 'fflate';

/**
 * Block format, version 1: one column of up to `BLOCK_ROWS` samples.
 *
 * byte 0      version (1)
 * byte 1      order of differences taken: 0 values, 1 first, 2 second
 * byte 2      decimals d: a sample is integer / 10^d
 * byte 3      bit 0: a bitmap of missing samples follows the integers
 * bytes 4–7   number of samples, little endian
 * the rest    raw DEFLATE of: byte planes, lowest first, of the zigzag integers; each plane holds
 *             one byte per sample; planes that are zero everywhere are left out, their count
 *             stands in the first byte of the inflated data
 */
export const BLOCK_VERSION = 1;
export const BLOCK_ROWS = 65536;
/** Integers beyond this cannot be kept exactly. */
const LARGEST = 2 ** 52;

const zigzag = (value: number): number => (value >= 0 ? value * 2 : -value * 2 - 1);
const unzigzag = (code: number): number => (code % 2 === 0 ? code / 2 : -(code + 1) / 2);

function differences(integers: Float64Array, order: number): Float64Array {
  let current = integers;
  for (let pass = 0; pass < order; pass++) {
    const next = new Float64Array(current.length);
    for (let i = current.length - 1; i > 0; i--) next[i] = current[i]! - current[i - 1]!;
    if (current.length > 0) next[0] = current[0]!;
    current = next;
  }
  return current;
}

function pack(integers: Float64Array): Uint8Array {
  const n = integers.length;
  let largest = 0;
  for (let i = 0; i < n; i++) largest = Math.max(largest, zigzag(integers[i]!));
  let planes = 1;
  while (largest >= 256 ** planes) planes++;
  const bytes = new Uint8Array(1 + planes * n);
  bytes[0] = planes;
  for (let i = 0; i < n; i++) {
    let code = zigzag(integers[i]!);
    for (let plane = 0; plane < planes; plane++) {
      bytes[1 + plane * n + i] = code % 256;
      code = Math.floor(code / 256);
    }
  }
  return bytes;
}

/** Order-0 entropy of each byte plane, added up: what a packed column will about take, in bits. */
function estimatedBits(packed: Uint8Array, n: number): number {
  let bits = 0;
  for (let from = 1; from < packed.length; from += n) {
    const counts = new Uint32Array(256);
    for (let i = from; i < from + n; i++) counts[packed[i]!] = counts[packed[i]!]! + 1;
    for (const count of counts) if (count > 0) bits -= count * Math.log2(count / n);
  }
  return bits;
}

/**
 * Encodes one column without loss at `decimals` digits after the point; NaN is kept as missing.
 * The order of differences whose byte planes have the least entropy is chosen.
 * @throws RangeError for more than BLOCK_ROWS samples or a value too large for its decimals.
 */
export function encodeColumn(values: Float64Array, decimals: number): Uint8Array {
  const n = values.length;
  if (n > BLOCK_ROWS)
    throw new RangeError(`Expected at most ${BLOCK_ROWS} samples in a block; found ${n}.`);
  const scale = 10 ** decimals;
  const integers = new Float64Array(n);
  const missing = new Uint8Array(Math.ceil(n / 8));
  let hasMissing = false;
  let last = 0;
  for (let i = 0; i < n; i++) {
    const scaled = Math.round(values[i]! * scale);
    if (Number.isNaN(scaled)) {
      hasMissing = true;
      missing[i >> 3] = missing[i >> 3]! | (1 << (i & 7));
    } else if (Math.abs(scaled) > LARGEST) {
      throw new RangeError(
        `A value of ${values[i]} with ${decimals} decimals cannot be stored exactly.`,
      );
    } else last = scaled;
    integers[i] = last;
  }
  let best = { order: 0, packed: new Uint8Array(0) as Uint8Array, bits: Infinity };
  for (const order of [0, 1, 2]) {
    const packed = pack(differences(integers, order));
    const bits = estimatedBits(packed, n);
    if (bits < best.bits) best = { order, packed, bits };
  }
  const body = deflateSync(hasMissing ? concat(best.packed, missing) : best.packed, { level: 6 });
  const header = new Uint8Array(8);
  header.set([BLOCK_VERSION, best.order, decimals, hasMissing ? 1 : 0]);
  new DataView(header.buffer).setUint32(4, n, true);
  return concat(header, body);
}

function concat(a: Uint8Array, b: Uint8Array): Uint8Array {
  const joined = new Uint8Array(a.length + b.length);
  joined.set(a);
  joined.set(b, a.length);
  return joined;
}

/**
 * The samples of an encoded column.
 * @throws RangeError when the block is of another version or damaged.
 */
export function decodeColumn(block: Uint8Array): Float64Array {
  if (block[0] !== BLOCK_VERSION || block.length < 9) {
    throw new RangeError(
      `Expected a trace block of version ${BLOCK_VERSION}; found version ${block[0] ?? 'none'}.`,
    );
  }
  const [, order, decimals, flags] = block;
  const n = new DataView(block.buffer, block.byteOffset, 8).getUint32(4, true);
  const bytes = inflateSync(block.subarray(8));
  const planes = bytes[0]!;
  const expected = 1 + planes * n + (flags! & 1 ? Math.ceil(n / 8) : 0);
  if (bytes.length !== expected) {
    throw new RangeError(
      `Trace block damaged: expected ${expected} bytes inside, found ${bytes.length}.`,
    );
  }
  const integers = new Float64Array(n);
  for (let i = 0; i < n; i++) {
    let code = 0;
    for (let plane = planes - 1; plane >= 0; plane--) code = code * 256 + bytes[1 + plane * n + i]!;
    integers[i] = unzigzag(code);
  }
  for (let pass = 0; pass < order!; pass++)
    for (let i = 1; i < n; i++) integers[i] = integers[i]! + integers[i - 1]!;
  const scale = 10 ** decimals!;
  for (let i = 0; i < n; i++) integers[i] = integers[i]! / scale;
  if (flags! & 1) {
    const bitmap = bytes.subarray(1 + planes * n);
    for (let i = 0; i < n; i++) if (bitmap[i >> 3]! & (1 << (i & 7))) integers[i] = NaN;
  }
  return integers;
}
