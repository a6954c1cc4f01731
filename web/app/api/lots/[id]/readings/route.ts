import { readingsSince, recordReadings } from '@dusk-tally/lab/evidence';
import { answer, jsonBody } from '@/lib/api';
import { lab } from '@/lib/lab';
import { idOf } from '@/lib/id-param';

/** Readings typed after one that is known: those who type in one lot see each other. */
export async function GET(
  request: Request,
  { params }: { params: Promise<{ id: string }> },
): Promise<Response> {
  return answer(request, async (who) => {
    const after = Number(new URL(request.url).searchParams.get('after') ?? 0);
    const data = await readingsSince(lab(), who, { lotId: idOf((await params).id), after });
    return Response.json({ ok: true, data });
  });
}

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
