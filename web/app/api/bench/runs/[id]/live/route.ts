import { recordsBehind } from '@dusk-tally/lab/bench';
import { answer } from '@/lib/api';
import { eventStream } from '@/lib/event-stream';
import { lab } from '@/lib/lab';

/** Records of one run as they come; a reader that comes back gets all it missed. */
export async function GET(
  request: Request,
  { params }: { params: Promise<{ id: string }> },
): Promise<Response> {
  const { id } = await params;
  const query = new URL(request.url).searchParams;
  return answer(request, async (who) => {
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
