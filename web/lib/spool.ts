import { createWriteStream } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { ReadableStream } from 'node:stream/web';
import { LabError } from '@dusk-tally/lab';

/**
 * Lets work have a request’s body as a file, which is gone afterwards.
 * @param mostBytes a longer body is refused. @throws LabError when it is too long or cut off.
 */
export async function withSpooled<T>(
  request: Request,
  mostBytes: number,
  work: (path: string) => Promise<T>,
): Promise<T> {
  const folder = await mkdtemp(join(tmpdir(), 'dusk-upload-'));
  const path = join(folder, 'log');
  try {
    let bytes = 0;
    const body = Readable.fromWeb(request.body as unknown as ReadableStream);
    await pipeline(
      body,
      async function* (chunks: AsyncIterable<Buffer>) {
        for await (const chunk of chunks) {
          bytes += chunk.length;
          if (bytes > mostBytes)
            throw new LabError(
              'invalid',
              `Expected a file of at most ${Math.round(mostBytes / 1024 / 1024)} MB.`,
            );
          yield chunk;
        }
      },
      createWriteStream(path),
      { signal: request.signal },
    );
    const announced = Number(request.headers.get('content-length') ?? bytes);
    if (bytes !== announced)
      throw new LabError(
        'invalid',
        'The file did not arrive whole. Nothing of it was stored; send it again.',
      );
    return await work(path);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
