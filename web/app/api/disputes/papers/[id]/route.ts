import { disputePaper } from '@dusk-tally/lab/disputes';
import { answer, bytesResponse } from '@/lib/api';
import { idOf } from '@/lib/id-param';
import { lab } from '@/lib/lab';

/** A paper of a dispute, as it was kept; always handed over as a file, never shown as a page. */
export async function GET(
  request: Request,
  { params }: { params: Promise<{ id: string }> },
): Promise<Response> {
  return answer(request, async (who) => {
    const { bytes, name } = await disputePaper(lab(), who, { id: idOf((await params).id) });
    return bytesResponse(new Uint8Array(bytes), {
      'Content-Disposition': `attachment; filename*=UTF-8''${encodeURIComponent(name)}`,
    });
  });
}
