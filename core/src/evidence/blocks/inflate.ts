import { inflateSync } from 'fflate';

/** Inflates raw DEFLATE data of a block. @throws RangeError when it is damaged. */
export function inflateBlock(bytes: Uint8Array): Uint8Array {
  try {
    return inflateSync(bytes);
  } catch (error) {
    throw new RangeError(`Trace block damaged: ${(error as Error).message}.`);
  }
}
