import { BitReader } from './bits';
import { ByteReader } from './bytes';
import { decodeColumnV1 } from './column-codec-v1';
import { decodeSymbols } from './entropy-coder';
import { inflateBlock } from './inflate';
import { BLOCK_ROWS, BLOCK_VERSION } from './block-format';
import { readLow, unzigzag } from './low-bits';

/**
 * The samples of an encoded column, of this version or the one before.
 * @throws RangeError when the block is of another version or damaged.
 */
export function decodeColumn(block: Uint8Array): Float64Array {
  if (block[0] === 1) return decodeColumnV1(block);
  if (block[0] !== BLOCK_VERSION || block.length < 6) {
    throw new RangeError(
      `Expected a trace block of version ${BLOCK_VERSION}; found version ${block[0] ?? 'none'}.`,
    );
  }
  const [order, decimals, flags] = [block[1]!, block[2]!, block[3]!];
  const input = new ByteReader(block, 4);
  const n = input.whole();
  const shift = input.whole();
  if (n > BLOCK_ROWS || shift > 53 || order > 2)
    throw new RangeError(`Trace block damaged: ${n} samples, ${shift} low bits.`);
  const values = new Float64Array(n);
  const from = order === 0 ? unzigzag(input.whole()) : 0;
  const firsts = Math.min(order, n);
  for (let i = 0; i < firsts; i++) values[i] = unzigzag(input.whole());
  const missing = flags & 1 ? inflateMissing(input) : null;
  const apart = new Map<number, number>();
  if (flags & 2) {
    let at = 0;
    for (let left = input.whole(); left > 0; left--) {
      at += input.whole();
      apart.set(at, input.whole());
    }
  }
  if (n > firsts) {
    const symbols = decodeSymbols(input.take(input.whole()), n - firsts);
    undoDifferences(values, { order, firsts, from, shift, symbols, apart, input });
  }
  const scale = 10 ** decimals;
  for (let i = 0; i < n; i++) values[i] = values[i]! / scale;
  if (missing) for (let i = 0; i < n; i++) if (missing[i >> 3]! & (1 << (i & 7))) values[i] = NaN;
  return values;
}

function inflateMissing(input: ByteReader): Uint8Array {
  const packed = input.take(input.whole());
  return inflateBlock(packed);
}

function undoDifferences(
  values: Float64Array,
  part: {
    order: number;
    firsts: number;
    from: number;
    shift: number;
    symbols: Uint16Array;
    apart: ReadonlyMap<number, number>;
    input: ByteReader;
  },
): void {
  const { order, firsts, from, shift, symbols, apart, input } = part;
  const lowCount = shift * (symbols.length - apart.size);
  const low = new BitReader(input.take(Math.ceil(lowCount / 8)));
  if (!input.isAtEnd) throw new RangeError('Trace block damaged: its end does not fit.');
  const scale = 2 ** shift;
  let last = order === 0 ? from : (values[firsts - 1] ?? 0);
  // By how much the last value differed from the one before it.
  let slope = order === 2 ? last - (values[0] ?? 0) : 0;
  for (let i = 0; i < symbols.length; i++) {
    const symbol = symbols[i]!;
    let difference: number;
    if (symbol > 0 && shift === 0) {
      const code = symbol - 1;
      difference = (code >>> 1) ^ -(code & 1);
    } else {
      const code = symbol > 0 ? (symbol - 1) * scale + readLow(low, shift) : apart.get(i);
      if (code === undefined) throw new RangeError('Trace block damaged: a value is not there.');
      difference = unzigzag(code);
    }
    if (order === 2) {
      slope += difference;
      last += slope;
      values[firsts + i] = last;
    } else {
      values[firsts + i] = last + difference;
      if (order === 1) last += difference;
    }
  }
}
