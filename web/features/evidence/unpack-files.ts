import type { UnpackReply, UnpackRequest } from '@/workers/unpack.worker';

/** What a dropped file holds: itself, the logs inside it, or why nothing can be taken from it. */
export type Unpacked = { file: File; problem: string | null };

/** Whether a file begins as ZIP archives, and with them workbooks, do. */
async function isArchive(file: File): Promise<boolean> {
  const head = new Uint8Array(await file.slice(0, 4).arrayBuffer());
  return head[0] === 0x50 && head[1] === 0x4b && head[2] === 3 && head[3] === 4;
}

/** Larger tables are not taken apart here. */
const LARGEST_TABLE = 48 * 1024 * 1024;
const HEAD_BYTES = 65_536;
const CHANNEL_WORD =
  /(^|[,;|\t "])(channel|chan|ch|kanal|canal|voie|canale|kanaal|slot|port)[ _.#-]?(no|nr|number|id|index)?\.?["]?([,;|\t]|$)/im;

/** Whether a table may name the channel of each row. */
async function mayHoldChannels(file: File): Promise<boolean> {
  if (file.size > LARGEST_TABLE) return false;
  const head = new TextDecoder().decode(await file.slice(0, HEAD_BYTES).arrayBuffer());
  return CHANNEL_WORD.test(head.replaceAll('\u0000', ''));
}

/** Replaces archives and workbooks by the logs inside them, and tables of several channels by one log each. */
export async function unpackFiles(files: readonly File[]): Promise<Unpacked[]> {
  const parts = await Promise.all(
    files.map(async (file): Promise<Unpacked[]> => {
      try {
        if (await isArchive(file)) return await fromArchive(file);
        if (await mayHoldChannels(file)) {
          const channels = await fromArchive(file, true);
          if (channels.length > 1) return channels;
        }
      } catch {
        // What cannot be opened here is said where it is read.
      }
      return [{ file, problem: null }];
    }),
  );
  return parts.flat();
}

async function fromArchive(file: File, isTable = false): Promise<Unpacked[]> {
  const worker = new Worker(new URL('../../workers/unpack.worker.ts', import.meta.url), {
    type: 'module',
  });
  try {
    const bytes = await file.arrayBuffer();
    const reply = await new Promise<UnpackReply>((resolve, reject) => {
      worker.onmessage = ({ data }: MessageEvent<UnpackReply>) => resolve(data);
      worker.onerror = () => reject(new Error('The archive could not be opened.'));
      worker.postMessage({ id: 1, isTable, name: file.name, bytes } satisfies UnpackRequest, [
        bytes,
      ]);
    });
    if (!reply.ok) return [{ file, problem: reply.message }];
    return reply.files.map(({ name, bytes: content }) => ({
      file: new File([content], name),
      problem: null,
    }));
  } finally {
    worker.terminate();
  }
}
