import { lotCurves } from '@dusk-tally/lab/verdicts';
import { answer, bytesResponse } from '@/lib/api';
import { lab } from '@/lib/lab';
import { idOf } from '@/lib/id-param';

/** All thinned discharges of a lot: the cells' numbers in a header, the curves as body. */
export async function GET(
  request: Request,
  { params }: { params: Promise<{ id: string }> },
): Promise<Response> {
  return answer(request, async (who) => {
    const { cells, curves } = await lotCurves(lab(), who, { lotId: idOf((await params).id) });
    return bytesResponse(curves, { 'X-Cells': cells.join(','), 'Cache-Control': 'no-store' });
  });
}
