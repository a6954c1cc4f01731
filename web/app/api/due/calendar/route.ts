import { dueCalendar } from '@dusk-tally/lab/today';
import { answer } from '@/lib/api';
import { lab } from '@/lib/lab';

/** Everything that is due at a time, as a calendar file. */
export async function GET(request: Request): Promise<Response> {
  return answer(
    request,
    async (who) =>
      new Response(await dueCalendar(lab(), who, {}), {
        headers: {
          'Content-Type': 'text/calendar; charset=utf-8',
          'Content-Disposition': 'attachment; filename="dusk-tally.ics"',
        },
      }),
  );
}
