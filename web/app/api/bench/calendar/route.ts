import { benchCalendar } from '@dusk-tally/lab/bench';
import { answer } from '@/lib/api';
import { lab } from '@/lib/lab';

/** The hours somebody has to be at the bench, as a calendar file. */
export async function GET(request: Request): Promise<Response> {
  return answer(
    request,
    async (who) =>
      new Response(await benchCalendar(lab(), who, {}), {
        headers: {
          'Content-Type': 'text/calendar; charset=utf-8',
          'Content-Disposition': 'attachment; filename="bench.ics"',
        },
      }),
  );
}
