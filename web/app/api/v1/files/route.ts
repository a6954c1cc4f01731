import { LabError } from '@dusk-tally/lab';
import { API_OPERATIONS } from '@dusk-tally/lab/api';
import { importLog } from '@dusk-tally/lab/evidence';
import { cellPage } from '@dusk-tally/lab/verdicts';
import { answerToken, bytesOf } from '@/lib/api-v1';
import { lab } from '@/lib/lab';

/** Takes in a log for one cell. */
export async function POST(request: Request): Promise<Response> {
  return answerToken(request, API_OPERATIONS.files, async (who) => {
    const query = new URL(request.url).searchParams;
    const number = query.get('cell');
    if (!number) throw new LabError('invalid', 'Expected the cell’s number as ?cell=….');
    const { cell } = await cellPage(lab(), who, { number });
    const bytes = await bytesOf(request, API_OPERATIONS.files);
    const optional = (name: string) => (query.get(name) ? Number(query.get(name)) : null);
    return Response.json(
      await importLog(lab(), who, {
        lotId: cell.lotId,
        cellId: cell.id,
        channelId: optional('channel'),
        ambientC: optional('ambient'),
        clamping: query.get('clamping') as 'fixture' | 'free' | null,
        fileName: query.get('name') ?? '',
        bytes,
      }),
    );
  });
}
