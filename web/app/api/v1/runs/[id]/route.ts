import { API_OPERATIONS } from '@dusk-tally/lab/api';
import { runPage } from '@dusk-tally/lab/verdicts';
import { answerToken } from '@/lib/api-v1';
import { lab } from '@/lib/lab';

/** A run with its figures. */
export async function GET(
  request: Request,
  { params }: { params: Promise<{ id: string }> },
): Promise<Response> {
  return answerToken(request, API_OPERATIONS.run, async (who) =>
    Response.json(await runPage(lab(), who, { id: Number((await params).id) })),
  );
}
