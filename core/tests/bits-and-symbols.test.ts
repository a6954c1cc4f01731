import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { BitReader, BitWriter } from '../src/evidence/blocks/bits';
import { ByteReader, ByteWriter } from '../src/evidence/blocks/bytes';
import { decodeSymbols, encodeSymbols, MOST_SYMBOLS } from '../src/evidence/blocks/entropy-coder';

describe('bits one after the other', () => {
  it('stand from the highest place of a byte on', () => {
    const bits = new BitWriter();
    bits.write(0b1, 1);
    bits.write(0b0110, 4);
    bits.write(0xabc, 12);
    expect([...bits.finish()]).toEqual([0b10110101, 0b01011110, 0b00000000]);
  });

  it('come back as they were written, lowest bits only, and zeros beyond them', () => {
    const part = fc.record({ value: fc.nat(2 ** 24 - 1), bits: fc.integer({ min: 0, max: 24 }) });
    fc.assert(
      fc.property(fc.array(part, { maxLength: 400 }), (parts) => {
        const writer = new BitWriter();
        for (const { value, bits } of parts) writer.write(value, bits);
        const written = writer.finish();
        const total = parts.reduce((sum, { bits }) => sum + bits, 0);
        expect(written.length).toBe(Math.ceil(total / 8));
        const reader = new BitReader(written);
        for (const { value, bits } of parts) expect(reader.read(bits)).toBe(value % 2 ** bits);
        expect(reader.offset()).toBe(written.length);
        expect(reader.read(16)).toBe(0);
      }),
    );
  });

  it('a gamma code takes twice its bits less one, and nothing else reads as one', () => {
    for (const value of [1, 2, 3, 4, 255, 256, 2 ** 24 - 1]) {
      const writer = new BitWriter();
      writer.writeGamma(value);
      const bits = 2 * Math.floor(Math.log2(value)) + 1;
      const written = writer.finish();
      expect(written.length).toBe(Math.ceil(bits / 8));
      expect(new BitReader(written).readGamma()).toBe(value);
    }
    expect(() => new BitReader(new Uint8Array(8)).readGamma()).toThrow(/damaged/);
  });
});

describe('whole numbers in bytes', () => {
  it('small ones take one byte, all come back', () => {
    fc.assert(
      fc.property(
        fc.array(fc.nat({ max: Number.MAX_SAFE_INTEGER })),
        fc.uint8Array(),
        (numbers, more) => {
          const writer = new ByteWriter();
          for (const number of numbers) writer.whole(number);
          writer.put(more);
          const bytes = writer.finish();
          const sizeOf = (n: number) => Math.max(1, Math.ceil(Math.log2(n + 1) / 7));
          if (numbers.every((n) => n < 2 ** 48))
            expect(bytes.length).toBe(numbers.reduce((sum, n) => sum + sizeOf(n), 0) + more.length);
          const reader = new ByteReader(bytes);
          for (const number of numbers) expect(reader.whole()).toBe(number);
          expect(reader.take(more.length)).toEqual(more);
          expect(reader.isAtEnd).toBe(true);
        },
      ),
    );
  });

  it('what ends too soon or never is told', () => {
    expect(() => new ByteReader(new Uint8Array()).byte()).toThrow(/ends too soon/);
    expect(() => new ByteReader(Uint8Array.of(0x80)).whole()).toThrow(/ends too soon/);
    expect(() => new ByteReader(new Uint8Array(20).fill(0xff)).whole()).toThrow(/too long/);
    expect(() => new ByteReader(Uint8Array.of(1, 2)).take(3)).toThrow(/ends too soon/);
  });
});

/** Symbols as the coder takes them. */
function encoded(symbols: readonly number[]): Uint8Array {
  const largest = Math.max(...symbols);
  const counts = new Int32Array(largest + 1);
  for (const symbol of symbols) counts[symbol]!++;
  return encodeSymbols(Uint16Array.from(symbols), counts, largest);
}
const some = (top: number) => fc.array(fc.nat(top), { minLength: 1, maxLength: 3000 });

describe('symbols by how often they come', () => {
  it.each([1, 3, 200, 600, 60_000])('come back, of up to %i', (top) => {
    fc.assert(
      fc.property(some(top), (symbols) => {
        expect([...decodeSymbols(encoded(symbols), symbols.length)]).toEqual(symbols);
      }),
      { numRuns: 30 },
    );
  });

  it('one symbol alone takes no more, however often it comes', () => {
    const once = encoded([7]).length;
    expect(encoded(new Array<number>(60_000).fill(7)).length).toBe(once);
  });

  it('take about their entropy and their table', () => {
    // One in sixteen is a one: 0.337 bits each.
    const symbols = Array.from({ length: 16_000 }, (_, i) => Number((i * 7919) % 16 === 0));
    const bits = -(Math.log2(1 / 16) / 16 + (15 / 16) * Math.log2(15 / 16)) * symbols.length;
    expect(encoded(symbols).length).toBeGreaterThan(bits / 8);
    expect(encoded(symbols).length).toBeLessThan(1.02 * (bits / 8) + 16);
  });

  it('as many kinds as a block may hold', () => {
    const symbols = Array.from({ length: 3 * MOST_SYMBOLS }, (_, i) => i % MOST_SYMBOLS);
    expect([...decodeSymbols(encoded(symbols), symbols.length)]).toEqual(symbols);
  });

  it('a block with a bit turned over, cut or lengthened is refused or gives other symbols, and never hangs', () => {
    const symbols = Array.from({ length: 500 }, (_, i) => (i * i) % 37);
    const whole = encoded(symbols);
    const read = (bytes: Uint8Array) => {
      try {
        return [...decodeSymbols(bytes, symbols.length)];
      } catch (error) {
        expect(error).toBeInstanceOf(RangeError);
        return null;
      }
    };
    let [refused, unread] = [0, 0];
    for (let at = 0; at < 8 * whole.length; at++) {
      const turned = Uint8Array.from(whole);
      turned[at >> 3]! ^= 128 >> (at & 7);
      const found = read(turned);
      if (found === null) refused++;
      else if (found.every((symbol, i) => symbol === symbols[i])) unread++;
    }
    expect(refused / (8 * whole.length)).toBeGreaterThan(0.8);
    // Nobody reads what fills the table’s last byte.
    expect(unread).toBeLessThan(8);
    for (let length = 0; length < whole.length; length++)
      expect(read(whole.subarray(0, length))).toBeNull();
    expect(read(Uint8Array.of(...whole, 0))).toBeNull();
  });
});
