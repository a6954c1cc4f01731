/** Bits put one after the other, the first in the highest place of a byte. */
export class BitWriter {
  private bytes = new Uint8Array(256);
  private length = 0;
  private pending = 0;
  private count = 0;

  /** Lowest `bits` of `value`; 0 to 24 of them. */
  write(value: number, bits: number): void {
    this.pending = (this.pending << bits) | (value & ((1 << bits) - 1));
    this.count += bits;
    while (this.count >= 8) {
      this.count -= 8;
      if (this.length === this.bytes.length) {
        const larger = new Uint8Array(this.length * 2);
        larger.set(this.bytes);
        this.bytes = larger;
      }
      this.bytes[this.length++] = (this.pending >>> this.count) & 255;
      this.pending &= (1 << this.count) - 1;
    }
  }

  /** Elias gamma code of a whole number from 1 to 2^24 − 1. */
  writeGamma(value: number): void {
    const bits = 32 - Math.clz32(value);
    this.write(0, bits - 1);
    this.write(value, bits);
  }

  finish(): Uint8Array {
    if (this.count > 0) this.write(0, 8 - this.count);
    return this.bytes.subarray(0, this.length);
  }
}

/** Reads what `BitWriter` wrote; beyond the end it reads zeros. */
export class BitReader {
  private pending = 0;
  private count = 0;

  constructor(
    private readonly bytes: Uint8Array,
    private at = 0,
  ) {}

  read(bits: number): number {
    while (this.count < bits) {
      this.pending = (this.pending << 8) | (this.bytes[this.at++] ?? 0);
      this.count += 8;
    }
    this.count -= bits;
    const value = (this.pending >>> this.count) & ((1 << bits) - 1);
    this.pending &= (1 << this.count) - 1;
    return value;
  }

  /** First byte that nothing was read of yet. */
  offset(): number {
    return this.at - (this.count >> 3);
  }

  /** @throws RangeError where no such code can stand. */
  readGamma(): number {
    let zeros = 0;
    while (this.read(1) === 0)
      if (++zeros > 24) throw new RangeError('Trace block damaged: a number is too long.');
    return (1 << zeros) | this.read(zeros);
  }
}
