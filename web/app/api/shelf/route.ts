import { recordReadings } from '@dusk-tally/lab/evidence';
import { answer, jsonBody } from '@/lib/api';
import { lab } from '@/lib/lab';

/** Keeps readings of the shelf; repeating them stores nothing twice. */
export async function POST(request: Request): Promise<Response> {
  return answer(request, async (who) => {
    const body = await jsonBody<Parameters<typeof recordReadings>[2]>(
      request,
      'a list of readings',
    );
    return Response.json({ ok: true, data: await recordReadings(lab(), who, body) });
  });
}
