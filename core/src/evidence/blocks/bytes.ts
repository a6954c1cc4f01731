/** Whole numbers and stretches of bytes, one after the other. */
export class ByteWriter {
  private bytes = new Uint8Array(256);
  private length = 0;

  private room(more: number): void {
    if (this.length + more <= this.bytes.length) return;
    const larger = new Uint8Array(Math.max(2 * this.bytes.length, this.length + more));
    larger.set(this.bytes.subarray(0, this.length));
    this.bytes = larger;
  }

  byte(value: number): void {
    this.room(1);
    this.bytes[this.length++] = value;
  }

  /** A whole number from 0 to 2^53, seven bits a byte, lowest first. */
  whole(value: number): void {
    let left = value;
    while (left >= 128) {
      this.byte((left % 128) | 128);
      left = Math.floor(left / 128);
    }
    this.byte(left);
  }

  put(bytes: Uint8Array): void {
    this.room(bytes.length);
    this.bytes.set(bytes, this.length);
    this.length += bytes.length;
  }

  finish(): Uint8Array {
    return this.bytes.slice(0, this.length);
  }
}

/** Reads what `ByteWriter` wrote. @throws RangeError beyond the end. */
export class ByteReader {
  constructor(
    private readonly bytes: Uint8Array,
    private at = 0,
  ) {}

  byte(): number {
    const value = this.bytes[this.at++];
    if (value === undefined) throw new RangeError('Trace block damaged: it ends too soon.');
    return value;
  }

  whole(): number {
    let value = 0;
    let scale = 1;
    for (;;) {
      const byte = this.byte();
      value += (byte & 127) * scale;
      if (byte < 128) return value;
      scale *= 128;
      if (scale > 2 ** 56) throw new RangeError('Trace block damaged: a number is too long.');
    }
  }

  take(length: number): Uint8Array {
    if (this.at + length > this.bytes.length)
      throw new RangeError('Trace block damaged: it ends too soon.');
    const part = this.bytes.subarray(this.at, this.at + length);
    this.at += length;
    return part;
  }

  get isAtEnd(): boolean {
    return this.at === this.bytes.length;
  }
}
