import { keepHandPoints } from '@dusk-tally/lab/gathering';
import { answer, jsonBody } from '@/lib/api';
import { lab } from '@/lib/lab';

/** Keeps points of a hand log; repeating them stores nothing twice. */
export async function POST(request: Request): Promise<Response> {
  return answer(request, async (who) => {
    const body = await jsonBody<Parameters<typeof keepHandPoints>[2]>(request, 'a list of points');
    return Response.json({ ok: true, data: await keepHandPoints(lab(), who, body) });
  });
}
