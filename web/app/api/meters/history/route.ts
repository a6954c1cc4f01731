import { meterHistory } from '@dusk-tally/lab/evidence';
import { answer } from '@/lib/api';
import { idOf } from '@/lib/id-param';
import { lab } from '@/lib/lab';

/** What held of an instrument (`instrument`) or of one of its channels (`channel`), the newest first. */
export async function GET(request: Request): Promise<Response> {
  return answer(request, async (who) => {
    const asked = new URL(request.url).searchParams;
    const channel = asked.get('channel');
    const data = await meterHistory(lab(), who, {
      instrumentId: idOf(asked.get('instrument') ?? ''),
      channelId: channel === null ? null : idOf(channel),
    });
    return Response.json({ ok: true, data });
  });
}
