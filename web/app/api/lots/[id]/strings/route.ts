import { LabError } from '@dusk-tally/lab';
import { importString, LARGEST_IN_MEMORY, LARGEST_LOG } from '@dusk-tally/lab/evidence';
import { answer } from '@/lib/api';
import { lab } from '@/lib/lab';
import { withSpooled } from '@/lib/spool';
import { idOf } from '@/lib/id-param';

/** Takes in the log of a string: the file as body, its name and the period’s as query. */
export async function POST(
  request: Request,
  { params }: { params: Promise<{ id: string }> },
): Promise<Response> {
  return answer(request, async (who) => {
    const query = new URL(request.url).searchParams;
    const length = Number(request.headers.get('content-length') ?? Infinity);
    if (length > LARGEST_LOG && Number.isFinite(length))
      throw new LabError('invalid', `Expected a file of at most ${LARGEST_LOG / 1024 / 1024} MB.`);
    const input = {
      lotId: idOf((await params).id),
      fileName: query.get('name') ?? '',
      name: query.get('period') ?? '',
      signal: request.signal,
    };
    const data =
      length <= LARGEST_IN_MEMORY
        ? await importString(lab(), who, {
            ...input,
            bytes: new Uint8Array(await request.arrayBuffer()),
          })
        : await withSpooled(request, LARGEST_LOG, (path) =>
            importString(lab(), who, { ...input, path }),
          );
    return Response.json({ ok: true, data });
  });
}
