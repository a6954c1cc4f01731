import { inflateBlock } from './inflate';

/**
 * Block format, version 1, read only: one column of up to `BLOCK_ROWS` samples.
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
const unzigzag = (code: number): number => (code % 2 === 0 ? code / 2 : -(code + 1) / 2);

/**
 * The samples of an encoded column.
 * @throws RangeError when the block is of another version or damaged.
 */
export function decodeColumnV1(block: Uint8Array): Float64Array {
  if (block[0] !== 1 || block.length < 9) {
    throw new RangeError(
      `Expected a trace block of version 1; found version ${block[0] ?? 'none'}.`,
    );
  }
  const [, order, decimals, flags] = block;
  const n = new DataView(block.buffer, block.byteOffset, 8).getUint32(4, true);
  const bytes = inflateBlock(block.subarray(8));
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
