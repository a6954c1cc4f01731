import { reportPdf } from '@dusk-tally/lab/reports';
import { answer, pdfResponse } from '@/lib/api';
import { lab } from '@/lib/lab';

/** A released report as PDF. */
export async function GET(
  request: Request,
  { params }: { params: Promise<{ number: string }> },
): Promise<Response> {
  return answer(request, async (who) => {
    const { number } = await params;
    return pdfResponse(number, await reportPdf(lab(), who, { number }));
  });
}
