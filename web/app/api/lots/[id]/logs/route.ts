import { LabError } from '@dusk-tally/lab';
import { importLog, LARGEST_IN_MEMORY, LARGEST_LOG } from '@dusk-tally/lab/evidence';
import { answer } from '@/lib/api';
import { lab } from '@/lib/lab';
import { withSpooled } from '@/lib/spool';
import { idOf } from '@/lib/id-param';

/** Takes in one log: the file as body, the rest as query. */
export async function POST(
  request: Request,
  { params }: { params: Promise<{ id: string }> },
): Promise<Response> {
  return answer(request, async (who) => {
    const query = new URL(request.url).searchParams;
    const length = Number(request.headers.get('content-length') ?? Infinity);
    if (length > LARGEST_LOG && Number.isFinite(length)) {
      throw new LabError('invalid', `Expected a file of at most ${LARGEST_LOG / 1024 / 1024} MB.`);
    }
    const optional = (name: string) => (query.get(name) ? Number(query.get(name)) : null);
    const input = {
      lotId: idOf((await params).id),
      cellId: Number(query.get('cell')),
      instrumentId: optional('instrument'),
      channelId: optional('channel'),
      ambientC: optional('ambient'),
      clamping: query.get('clamping') as 'fixture' | 'free' | null,
      leadMohm: optional('lead'),
      leadUncertaintyMohm: optional('leadU'),
      despiteGate: query.get('despite'),
      fileName: query.get('name') ?? '',
      signal: request.signal,
    };
    const data =
      length <= LARGEST_IN_MEMORY
        ? await importLog(lab(), who, {
            ...input,
            bytes: new Uint8Array(await request.arrayBuffer()),
          })
        : await withSpooled(request, LARGEST_LOG, (path) =>
            importLog(lab(), who, { ...input, path }),
          );
    return Response.json({ ok: true, data });
  });
}
