import { disputeFilePdf } from '@dusk-tally/lab/disputes';
import { answer, pdfResponse } from '@/lib/api';
import { lab } from '@/lib/lab';

/** A dispute file as PDF, set from what was frozen. */
export async function GET(
  request: Request,
  { params }: { params: Promise<{ number: string }> },
): Promise<Response> {
  return answer(request, async (who) => {
    const { number } = await params;
    return pdfResponse(number, await disputeFilePdf(lab(), who, { number }));
  });
}
