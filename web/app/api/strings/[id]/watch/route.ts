import { stringStretch } from '@dusk-tally/lab/evidence';
import { answer } from '@/lib/api';
import { lab } from '@/lib/lab';
import { idOf } from '@/lib/id-param';

/** What a stretch of a watched string tells. */
export async function GET(
  request: Request,
  { params }: { params: Promise<{ id: string }> },
): Promise<Response> {
  return answer(request, async (who) => {
    const query = new URL(request.url).searchParams;
    const watch = await stringStretch(lab(), who, {
      stringId: idOf((await params).id),
      fromS: Number(query.get('from')),
      toS: Number(query.get('to')),
    });
    return Response.json({ ok: true, data: watch });
  });
}
