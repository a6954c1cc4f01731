import { BitReader, BitWriter } from './bits';

export const zigzag = (value: number): number => (value >= 0 ? value * 2 : -value * 2 - 1);

export const unzigzag = (code: number): number => (code % 2 === 0 ? code / 2 : -(code + 1) / 2);

/** Low bits of a code, 24 at most at a time. */
export function writeLow(out: BitWriter, value: number, bits: number): void {
  if (bits <= 24) return out.write(value, bits);
  const upper = Math.floor(value / 2 ** 24);
  writeLow(out, upper, bits - 24);
  out.write(value - upper * 2 ** 24, 24);
}

export function readLow(from: BitReader, bits: number): number {
  if (bits <= 24) return from.read(bits);
  return readLow(from, bits - 24) * 2 ** 24 + from.read(24);
}
