import { stopPlanning } from '@dusk-tally/lab/bench';
import { answer } from '@/lib/api';
import { lab } from '@/lib/lab';

/** Has the planner take the best plan it has found so far. */
export async function POST(request: Request): Promise<Response> {
  return answer(request, async (who) =>
    Response.json({ ok: true, data: await stopPlanning(lab(), who, {}) }),
  );
}
