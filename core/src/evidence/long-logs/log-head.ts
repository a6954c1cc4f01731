import { type DecodedLog, utf16Order } from '../reading/decode';
import type { Dialect } from '../reading/dialect';
import { scanRows } from '../reading/scan';
import type { ByteSource } from './byte-source';

/** Bytes read at one time. */
export const PIECE = 4 * 1024 * 1024;
/** Bytes whose rows tell the order of a file. */
export const HEAD_BYTES = 32_768;

const NEWLINE = 10;

/** Size without the NUL bytes a logger that lost power left at the end. */
export function sizeWithoutNuls(source: ByteSource): number {
  const isWide = Number(utf16Order(source.read(0, Math.min(512, source.size))) === 'utf-16le');
  let end = source.size;
  while (end > 0) {
    const from = Math.max(0, end - 65_536);
    const bytes = source.read(from, end);
    let last = bytes.length;
    while (last > 0 && bytes[last - 1] === 0) last--;
    // The last zero byte of two-byte text belongs to its last character.
    if (last > 0) return Math.min(source.size, from + last + (isWide && (from + last) % 2));
    end = from;
  }
  return 0;
}

/** Times of the first rows, as written. */
export function firstTimes(head: DecodedLog, dialect: Dialect): Float64Array {
  const bytes = head.bytes.subarray(0, dialect.firstDataOffset + HEAD_BYTES);
  const end = bytes.length < head.bytes.length ? bytes.lastIndexOf(NEWLINE) + 1 : bytes.length;
  return scanRows(bytes.subarray(0, end), dialect, { partOfMore: true }).timeS;
}

/** Length of a head that ends with a line. */
export function lineEndIn(source: ByteSource, size: number): number {
  const bytes = source.read(0, Math.min(size, PIECE));
  const end = bytes.lastIndexOf(NEWLINE) + 1;
  // Two bytes a character: the newline may be either of them.
  return end > 0 ? end + (end % 2 === 1 && (bytes[0] === 0xff || bytes[1] === 0) ? 1 : 0) : size;
}
