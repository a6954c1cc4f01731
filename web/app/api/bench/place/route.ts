import { checkPlace } from '@dusk-tally/lab/bench';
import { answer } from '@/lib/api';
import { lab } from '@/lib/lab';

/** Whether a part of a job fits a place, with the reasons it does not. */
export async function GET(request: Request): Promise<Response> {
  const query = new URL(request.url).searchParams;
  return answer(request, async (who) =>
    Response.json({
      ok: true,
      data: await checkPlace(lab(), who, {
        jobId: Number(query.get('job')),
        part: Number(query.get('part')),
        channelId: Number(query.get('channel')),
        from: new Date(query.get('from') ?? ''),
      }),
    }),
  );
}
