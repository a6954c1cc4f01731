import { scanCode } from '@dusk-tally/lab/arrivals';
import { answer, jsonBody } from '@/lib/api';
import { lab } from '@/lib/lab';
import { idOf } from '@/lib/id-param';

export async function POST(
  request: Request,
  { params }: { params: Promise<{ id: string }> },
): Promise<Response> {
  return answer(request, async (who) => {
    const body = await jsonBody<Parameters<typeof scanCode>[2]>(request, 'a scanned code');
    const data = await scanCode(lab(), who, { ...body, lotId: idOf((await params).id) });
    return Response.json({ ok: true, data });
  });
}
