import { LabError } from '@dusk-tally/lab';
import { recordReadings, type readingsInput } from '@dusk-tally/lab/evidence';
import type { z } from 'zod';
import { answer } from '@/lib/api';
import { lab } from '@/lib/lab';

/** Keeps a batch of typed readings; repeating it stores nothing twice. */
export async function POST(
  request: Request,
  { params }: { params: Promise<{ id: string }> },
): Promise<Response> {
  return answer(request, async (who) => {
    const body = (await request.json().catch(() => {
      throw new LabError('invalid', 'Expected JSON with a list of readings.');
    })) as Omit<z.input<typeof readingsInput>, 'lotId'>;
    const data = await recordReadings(lab(), who, { ...body, lotId: Number((await params).id) });
    return Response.json({ ok: true, data });
  });
}
