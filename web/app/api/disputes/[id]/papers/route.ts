import { LabError } from '@dusk-tally/lab';
import { addPaper } from '@dusk-tally/lab/disputes';
import { LARGEST_PAPER } from '@dusk-tally/lab/inputs';
import { answer } from '@/lib/api';
import { idOf } from '@/lib/id-param';
import { lab } from '@/lib/lab';

/** Keeps a paper with a dispute: the file as body, its name as query. */
export async function POST(
  request: Request,
  { params }: { params: Promise<{ id: string }> },
): Promise<Response> {
  return answer(request, async (who) => {
    const name = new URL(request.url).searchParams.get('name') ?? 'paper';
    if (Number(request.headers.get('content-length') ?? 0) > LARGEST_PAPER)
      throw new LabError('invalid', `${name}: expected at most 15 MB. It was not stored.`);
    const data = await addPaper(lab(), who, {
      disputeId: idOf((await params).id),
      name,
      type: request.headers.get('content-type') || 'application/octet-stream',
      bytes: new Uint8Array(await request.arrayBuffer()),
    });
    return Response.json({ ok: true, data });
  });
}
