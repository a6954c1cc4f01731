import { dueCounts } from '@dusk-tally/lab/today';
import { answer } from '@/lib/api';
import { lab } from '@/lib/lab';

/** How much is due at each stage. */
export async function GET(request: Request): Promise<Response> {
  return answer(request, async (who) => Response.json(await dueCounts(lab(), who, {})));
}
