import type { UnpackReply, UnpackRequest } from '@/workers/unpack.worker';

/** What a dropped file holds: itself, the logs inside it, or why nothing can be taken from it. */
export type Unpacked = { file: File; problem: string | null };

/** Whether a file begins as ZIP archives, and with them workbooks, do. */
async function isArchive(file: File): Promise<boolean> {
  const head = new Uint8Array(await file.slice(0, 4).arrayBuffer());
  return head[0] === 0x50 && head[1] === 0x4b && head[2] === 3 && head[3] === 4;
}

/** Replaces archives and workbooks by the logs inside them. */
export async function unpackFiles(files: readonly File[]): Promise<Unpacked[]> {
  const parts = await Promise.all(
    files.map(async (file): Promise<Unpacked[]> => {
      try {
        if (await isArchive(file)) return await fromArchive(file);
      } catch {
        // What cannot be opened here is said where it is read.
      }
      return [{ file, problem: null }];
    }),
  );
  return parts.flat();
}

async function fromArchive(file: File): Promise<Unpacked[]> {
  const worker = new Worker(new URL('../../workers/unpack.worker.ts', import.meta.url), {
    type: 'module',
  });
  try {
    const bytes = await file.arrayBuffer();
    const reply = await new Promise<UnpackReply>((resolve, reject) => {
      worker.onmessage = ({ data }: MessageEvent<UnpackReply>) => resolve(data);
      worker.onerror = () => reject(new Error('The archive could not be opened.'));
      worker.postMessage({ id: 1, name: file.name, bytes } satisfies UnpackRequest, [bytes]);
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
