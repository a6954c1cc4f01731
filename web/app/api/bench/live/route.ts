import { liveBoard } from '@dusk-tally/lab/bench';
import { answer } from '@/lib/api';
import { eventStream } from '@/lib/event-stream';
import { lab } from '@/lib/lab';

/** Time between two pictures of the board, ms: a reading a second is never two seconds late. */
const EVERY_MS = 600;

/** The whole board, again and again: a reader that comes back has everything at once. */
export async function GET(request: Request): Promise<Response> {
  return answer(request, async (who) =>
    Promise.resolve(
      eventStream(request.signal, EVERY_MS, async () => {
        const board = await liveBoard(lab(), who, {});
        return { id: board.at, data: board };
      }),
    ),
  );
}
