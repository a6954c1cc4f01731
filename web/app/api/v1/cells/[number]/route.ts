import { API_OPERATIONS } from '@dusk-tally/lab/api';
import { cellPage } from '@dusk-tally/lab/verdicts';
import { answerToken } from '@/lib/api-v1';
import { lab } from '@/lib/lab';

/** Where a cell stands. */
export async function GET(
  request: Request,
  { params }: { params: Promise<{ number: string }> },
): Promise<Response> {
  return answerToken(request, API_OPERATIONS.cell, async (who) =>
    Response.json(await cellPage(lab(), who, { number: (await params).number })),
  );
}
