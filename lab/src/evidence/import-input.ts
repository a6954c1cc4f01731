import { createHash, webcrypto } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { CLAMPINGS } from '@dusk-tally/core/chemistry';
import { z } from 'zod';

/** Largest log taken in, bytes. */
export const LARGEST_LOG = 1024 * 1024 * 1024;

/** Larger ones lie in a file and are read piece by piece. */
export const LARGEST_IN_MEMORY = 48 * 1024 * 1024;

export const importInput = z.object({
  lotId: z.int(),
  cellId: z.int(),
  instrumentId: z
    .int()
    .nullish()
    .transform((value) => value ?? null),
  /** The channel it ran on; its instrument comes with it. */
  channelId: z
    .int()
    .nullish()
    .transform((value) => value ?? null),
  /** Of the room, when the log does not say. */
  ambientC: z
    .number()
    .min(-40, 'Expected −40 to 80 °C.')
    .max(80, 'Expected −40 to 80 °C.')
    .nullish()
    .transform((value) => value ?? null),
  /** How the cell was held; null where nobody recorded it. */
  clamping: z
    .enum(CLAMPINGS)
    .nullish()
    .transform((value) => value ?? null),
  leadMohm: z
    .number()
    .positive()
    .max(1000)
    .nullish()
    .transform((value) => value ?? null),
  /** Standard uncertainty of the leads’ resistance, mΩ. */
  leadUncertaintyMohm: z
    .number()
    .positive()
    .max(1000)
    .nullish()
    .transform((value) => value ?? null),
  /** A lead's reason to take in a run of a cell that may not go on a tester. */
  despiteGate: z
    .string()
    .trim()
    .min(3)
    .max(400)
    .nullish()
    .transform((value) => value ?? null),
  fileName: z.string().min(1).max(255),
  /** The log itself; null when it lies in a file. */
  bytes: z
    .instanceof(Uint8Array)
    .refine((bytes) => bytes.length <= LARGEST_IN_MEMORY, {
      message: `Expected at most ${LARGEST_IN_MEMORY / 1024 / 1024} MB in one piece.`,
    })
    .nullish()
    .transform((value) => value ?? null),
  /** A file on this machine that holds it. */
  path: z
    .string()
    .nullish()
    .transform((value) => value ?? null),
  /** Clocks of agent and instrument apart over a driven run, as a share. */
  clocksApart: z
    .number()
    .nullish()
    .transform((value) => value ?? null),
  /** Stops the reading when the one who sent it is gone. */
  signal: z.instanceof(AbortSignal).optional(),
});

/** Content hash and size of a log, wherever it lies. */
export async function fingerprint({
  bytes,
  path,
}: Pick<z.output<typeof importInput>, 'bytes' | 'path'>): Promise<{
  sha256: string;
  size: number;
}> {
  if (bytes) {
    // Works on a copy taken at once, in a thread of its own: the bytes may be handed on meanwhile.
    const digest = await webcrypto.subtle.digest('SHA-256', bytes as Uint8Array<ArrayBuffer>);
    return { sha256: Buffer.from(digest).toString('hex'), size: bytes.length };
  }
  const hash = createHash('sha256');
  let size = 0;
  for await (const chunk of createReadStream(path!, { highWaterMark: 1024 * 1024 })) {
    hash.update(chunk as Buffer);
    size += (chunk as Buffer).length;
  }
  return { sha256: hash.digest('hex'), size };
}
