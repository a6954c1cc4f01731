import { searchEverything } from '@dusk-tally/lab/today';
import { answer } from '@/lib/api';
import { lab } from '@/lib/lab';

/** Cells, lots and reports that fit what was typed. */
export async function GET(request: Request): Promise<Response> {
  return answer(request, async (who) => {
    const text = new URL(request.url).searchParams.get('q') ?? '';
    return Response.json({ ok: true, data: await searchEverything(lab(), who, { text }) });
  });
}
