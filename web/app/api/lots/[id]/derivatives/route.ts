import { lotDerivatives } from '@dusk-tally/lab/verdicts';
import { answer } from '@/lib/api';
import { lab } from '@/lib/lab';
import { idOf } from '@/lib/id-param';

/** dQ/dV and dV/dQ of all cells of a lot. */
export async function GET(
  request: Request,
  { params }: { params: Promise<{ id: string }> },
): Promise<Response> {
  return answer(request, async (who) =>
    Response.json(await lotDerivatives(lab(), who, { lotId: idOf((await params).id) }), {
      headers: { 'Cache-Control': 'no-store' },
    }),
  );
}
