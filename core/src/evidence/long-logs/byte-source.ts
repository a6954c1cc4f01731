/** Bytes that are read piece by piece: a file on disk, or one in the browser. */
export interface ByteSource {
  readonly size: number;
  /** Bytes `from` up to but not with `to`. */
  read(from: number, to: number): Uint8Array;
}

/** Bytes already in memory as a source. */
export const memorySource = (bytes: Uint8Array): ByteSource => ({
  size: bytes.length,
  read: (from, to) => bytes.subarray(from, to),
});
