import { liveBoard } from '@dusk-tally/lab/bench';
import { answer } from '@/lib/api';
import { eventStream } from '@/lib/event-stream';
import { lab } from '@/lib/lab';

/** The whole board each second: a reader that comes back has everything at once. */
export async function GET(request: Request): Promise<Response> {
  return answer(request, async (who) =>
    Promise.resolve(
      eventStream(request.signal, 1000, async () => {
        const board = await liveBoard(lab(), who, {});
        return { id: board.at, data: board };
      }),
    ),
  );
}
