import { disputeFilePdf } from '@dusk-tally/lab/disputes';
import { answer, bytesResponse } from '@/lib/api';
import { lab } from '@/lib/lab';

/** A dispute file as PDF, set from what was frozen. */
export async function GET(
  request: Request,
  { params }: { params: Promise<{ number: string }> },
): Promise<Response> {
  return answer(request, async (who) => {
    const { number } = await params;
    const pdf = await disputeFilePdf(lab(), who, { number });
    return bytesResponse(pdf, {
      'Content-Type': 'application/pdf',
      'Content-Disposition': `inline; filename="${number.replace(/[^\w-]/g, '')}.pdf"`,
    });
  });
}
