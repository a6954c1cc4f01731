import { cellsOfCode, searchEverything } from '@dusk-tally/lab/today';
import { answer } from '@/lib/api';
import { lab } from '@/lib/lab';

/** What fits what was typed (`q`), or the cells that carry a scanned code (`code`). */
export async function GET(request: Request): Promise<Response> {
  return answer(request, async (who) => {
    const asked = new URL(request.url).searchParams;
    const code = asked.get('code');
    const data =
      code === null
        ? await searchEverything(lab(), who, { text: asked.get('q') ?? '' })
        : await cellsOfCode(lab(), who, { code });
    return Response.json({ ok: true, data });
  });
}
