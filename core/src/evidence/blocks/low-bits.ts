import { BitReader, BitWriter } from './bits';

/**
 * Signed whole number to unsigned: 0, −1, 1, −2 become 0, 1, 2, 3.
 * @example [0, -1, 1, -2].map(zigzag) // [0, 1, 2, 3]
 */
export const zigzag = (value: number): number => (value >= 0 ? value * 2 : -value * 2 - 1);

/**
 * Inverse of `zigzag`.
 * @example [0, 1, 2, 3].map(unzigzag) // [0, -1, 1, -2]
 */
export const unzigzag = (code: number): number => (code % 2 === 0 ? code / 2 : -(code + 1) / 2);

/** Low bits of a code, 24 at most at a time. */
export function writeLow(out: BitWriter, value: number, bits: number): void {
  if (bits <= 24) return out.write(value, bits);
  const upper = Math.floor(value / 2 ** 24);
  writeLow(out, upper, bits - 24);
  out.write(value - upper * 2 ** 24, 24);
}

/** Inverse of `writeLow`: the next `bits` bits as a number, 0 to 52 of them. */
export function readLow(from: BitReader, bits: number): number {
  if (bits <= 24) return from.read(bits);
  return readLow(from, bits - 24) * 2 ** 24 + from.read(24);
}
