import { stringView } from '@dusk-tally/lab/evidence';
import { answer, bytesResponse } from '@/lib/api';
import { lab } from '@/lib/lab';
import { idOf } from '@/lib/id-param';

/** A picture of a stretch of a watched string. */
export async function GET(
  request: Request,
  { params }: { params: Promise<{ id: string }> },
): Promise<Response> {
  return answer(request, async (who) => {
    const query = new URL(request.url).searchParams;
    const bytes = await stringView(lab(), who, {
      stringId: idOf((await params).id),
      fromS: Number(query.get('from')),
      toS: Number(query.get('to')),
      points: Number(query.get('points') ?? 900),
    });
    return bytesResponse(bytes, { 'Cache-Control': 'private, max-age=3600' });
  });
}
