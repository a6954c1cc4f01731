import { traceOfRun } from '@dusk-tally/lab/evidence';
import { answer, bytesResponse } from '@/lib/api';
import { lab } from '@/lib/lab';
import { idOf } from '@/lib/id-param';

/** A picture of a stored trace, whole or between two times. */
export async function GET(
  request: Request,
  { params }: { params: Promise<{ id: string }> },
): Promise<Response> {
  return answer(request, async (who) => {
    const query = new URL(request.url).searchParams;
    const number = (name: string) => (query.get(name) === null ? null : Number(query.get(name)));
    const bytes = await traceOfRun(lab(), who, {
      runId: idOf((await params).id),
      fromS: number('from'),
      toS: number('to'),
      points: number('points') ?? 1200,
    });
    return bytesResponse(bytes, { 'Cache-Control': 'private, max-age=3600' });
  });
}
