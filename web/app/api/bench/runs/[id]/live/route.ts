import { benchRunView, recordsBehind } from '@dusk-tally/lab/bench';
import { answer } from '@/lib/api';
import { eventStream } from '@/lib/event-stream';
import { idOf } from '@/lib/id-param';
import { lab } from '@/lib/lab';

/** Records of one run as they come; a reader that comes back gets all it missed. */
export async function GET(
  request: Request,
  { params }: { params: Promise<{ id: string }> },
): Promise<Response> {
  const id = idOf((await params).id);
  const query = new URL(request.url).searchParams;
  return answer(request, async (who) => {
    // A run that is not there has no stream that could stay open.
    await benchRunView(lab(), who, { id });
    let after = Number(request.headers.get('last-event-id') ?? query.get('after') ?? 0) || 0;
    return Promise.resolve(
      eventStream(request.signal, 1000, async () => {
        const records = await recordsBehind(lab(), who, { cursors: { [id]: after } });
        if (records.length === 0) return null;
        after = records[records.length - 1]!.seq;
        return { id: String(after), data: records };
      }),
    );
  });
}
