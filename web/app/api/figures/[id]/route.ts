import { figureTrail } from '@dusk-tally/lab/verdicts';
import { answer } from '@/lib/api';
import { lab } from '@/lib/lab';
import { idOf } from '@/lib/id-param';

/** A figure with its trail. */
export async function GET(
  request: Request,
  { params }: { params: Promise<{ id: string }> },
): Promise<Response> {
  return answer(request, async (who) =>
    Response.json({
      ok: true,
      data: await figureTrail(lab(), who, { id: idOf((await params).id) }),
    }),
  );
}
