import { photoBytes } from '@dusk-tally/lab/arrivals';
import { answer, bytesResponse } from '@/lib/api';
import { lab } from '@/lib/lab';
import { idOf } from '@/lib/id-param';

/** The pixels of a photograph; they never change. */
export async function GET(
  request: Request,
  { params }: { params: Promise<{ id: string }> },
): Promise<Response> {
  return answer(request, async (who) => {
    const size = new URL(request.url).searchParams.get('size') === 'thumb' ? 'thumb' : 'full';
    const bytes = await photoBytes(lab(), who, { id: idOf((await params).id), size });
    return bytesResponse(new Uint8Array(bytes), {
      'Content-Type': 'image/jpeg',
      'Cache-Control': 'private, max-age=31536000, immutable',
    });
  });
}
