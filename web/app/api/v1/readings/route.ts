import { API_OPERATIONS } from '@dusk-tally/lab/api';
import { recordReadings } from '@dusk-tally/lab/evidence';
import { answerToken, jsonOf } from '@/lib/api-v1';
import { lab } from '@/lib/lab';

/** Keeps typed readings. */
export async function POST(request: Request): Promise<Response> {
  return answerToken(request, API_OPERATIONS.readings, async (who) =>
    Response.json(await recordReadings(lab(), who, await jsonOf(request, API_OPERATIONS.readings))),
  );
}
