import { LabError } from '@dusk-tally/lab';
import { keepPhoto, LARGEST_PHOTO } from '@dusk-tally/lab/arrivals';
import { answer } from '@/lib/api';
import { lab } from '@/lib/lab';
import { idOf } from '@/lib/id-param';

type Subject = Parameters<typeof keepPhoto>[2]['subjectType'];

/** Takes in one photograph: the file as body, the rest as query. */
export async function POST(
  request: Request,
  { params }: { params: Promise<{ id: string }> },
): Promise<Response> {
  return answer(request, async (who) => {
    const query = new URL(request.url).searchParams;
    const name = query.get('name') ?? 'photograph';
    if (Number(request.headers.get('content-length') ?? 0) > LARGEST_PHOTO)
      throw new LabError(
        'invalid',
        `${name}: expected a photograph of at most ${LARGEST_PHOTO / 1024 / 1024} MB. It was not stored; take it at a lower resolution.`,
      );
    const data = await keepPhoto(lab(), who, {
      lotId: idOf((await params).id),
      clientKey: query.get('key') ?? '',
      subjectType: query.get('of') as Subject,
      subjectId: Number(query.get('id')),
      name,
      bytes: new Uint8Array(await request.arrayBuffer()),
    });
    return Response.json({ ok: true, data });
  });
}
