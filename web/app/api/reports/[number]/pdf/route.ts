import { reportPdf } from '@dusk-tally/lab/reports';
import { answer, bytesResponse } from '@/lib/api';
import { lab } from '@/lib/lab';

/** A released report as PDF. */
export async function GET(
  request: Request,
  { params }: { params: Promise<{ number: string }> },
): Promise<Response> {
  return answer(request, async (who) => {
    const { number } = await params;
    const pdf = await reportPdf(lab(), who, { number });
    return bytesResponse(pdf, {
      'Content-Type': 'application/pdf',
      'Content-Disposition': `inline; filename="${number.replace(/[^\w-]/g, '')}.pdf"`,
    });
  });
}
