import { agentOrders } from '@dusk-tally/lab/bench';
import { API_OPERATIONS } from '@dusk-tally/lab/api';
import { answerToken, jsonOf } from '@/lib/api-v1';
import { foldSoon } from '@/lib/watch';
import { lab } from '@/lib/lab';

/** What an agent is to do next. */
export async function POST(request: Request): Promise<Response> {
  return answerToken(request, API_OPERATIONS.poll, async (who) => {
    const orders = await agentOrders(lab(), who, await jsonOf(request, API_OPERATIONS.poll));
    foldSoon();
    return Response.json(orders);
  });
}
