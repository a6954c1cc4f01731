import { arrivalCells, boxView, lotArrival } from '@dusk-tally/lab/arrivals';
import { answer } from '@/lib/api';
import { lab } from '@/lib/lab';
import { idOf } from '@/lib/id-param';

/** Where receiving a lot stands now, for screens that show what others enter meanwhile. */
export async function GET(
  request: Request,
  { params }: { params: Promise<{ id: string }> },
): Promise<Response> {
  return answer(request, async (who) => {
    const lotId = idOf((await params).id);
    const [arrival, cells, box] = await Promise.all([
      lotArrival(lab(), who, { lotId }),
      arrivalCells(lab(), who, { lotId }),
      boxView(lab(), who, { lotId }),
    ]);
    return Response.json({ arrival, cells, box });
  });
}
