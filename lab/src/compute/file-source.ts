import { closeSync, fstatSync, openSync, readSync } from 'node:fs';
import type { ByteSource } from '@dusk-tally/core/evidence';

/** A file on disk, read where it is asked for. */
export function fileSource(path: string): ByteSource & { close: () => void } {
  const handle = openSync(path, 'r');
  return {
    size: fstatSync(handle).size,
    read: (from, to) => {
      const bytes = new Uint8Array(to - from);
      const read = readSync(handle, bytes, 0, bytes.length, from);
      return bytes.subarray(0, read);
    },
    close: () => closeSync(handle),
  };
}
