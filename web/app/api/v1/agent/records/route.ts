import { takeRecords } from '@dusk-tally/lab/bench';
import { API_OPERATIONS } from '@dusk-tally/lab/api';
import { answerToken, jsonOf } from '@/lib/api-v1';
import { lab } from '@/lib/lab';

/** Takes in records of runs, each exactly once. */
export async function POST(request: Request): Promise<Response> {
  return answerToken(request, API_OPERATIONS.records, async (who) =>
    Response.json(await takeRecords(lab(), who, await jsonOf(request, API_OPERATIONS.records))),
  );
}
