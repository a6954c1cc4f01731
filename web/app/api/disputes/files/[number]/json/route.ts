import { disputeFileData } from '@dusk-tally/lab/disputes';
import { answer } from '@/lib/api';
import { lab } from '@/lib/lab';

/** A dispute file as data: canonical JSON, byte for byte what its hash was made of. */
export async function GET(
  request: Request,
  { params }: { params: Promise<{ number: string }> },
): Promise<Response> {
  return answer(request, async (who) => {
    const { number } = await params;
    const { text } = await disputeFileData(lab(), who, { number });
    return new Response(text, {
      headers: {
        'Content-Type': 'application/json',
        'Content-Disposition': `attachment; filename="${number.replace(/[^\w-]/g, '')}.json"`,
      },
    });
  });
}
