import { sentAct } from '@dusk-tally/lab';
import { answer } from '@/lib/api';
import { lab } from '@/lib/lab';

/** What became of an act that was sent with a key, where its answer was lost. */
export async function GET(
  request: Request,
  { params }: { params: Promise<{ key: string }> },
): Promise<Response> {
  return answer(request, async (who) =>
    Response.json({ ok: true, data: await sentAct(lab(), who, (await params).key) }),
  );
}
