import { lotDerivatives } from '@dusk-tally/lab/verdicts';
import { answer } from '@/lib/api';
import { lab } from '@/lib/lab';

/** dQ/dV and dV/dQ of all cells of a lot. */
export async function GET(
  request: Request,
  { params }: { params: Promise<{ id: string }> },
): Promise<Response> {
  return answer(request, async (who) =>
    Response.json(await lotDerivatives(lab(), who, { lotId: Number((await params).id) }), {
      headers: { 'Cache-Control': 'no-store' },
    }),
  );
}
