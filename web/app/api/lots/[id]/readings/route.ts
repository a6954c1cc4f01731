import { recordReadings } from '@dusk-tally/lab/evidence';
import { answer, jsonBody } from '@/lib/api';
import { lab } from '@/lib/lab';
import { idOf } from '@/lib/id-param';

/** Keeps a batch of typed readings; repeating it stores nothing twice. */
export async function POST(
  request: Request,
  { params }: { params: Promise<{ id: string }> },
): Promise<Response> {
  return answer(request, async (who) => {
    const body = await jsonBody<Parameters<typeof recordReadings>[2]>(
      request,
      'a list of readings',
    );
    const data = await recordReadings(lab(), who, { ...body, lotId: idOf((await params).id) });
    return Response.json({ ok: true, data });
  });
}
