import { lotSample } from '@dusk-tally/lab/arrivals';
import { Link } from '@/kit/link';
import { PrintButton } from '@/kit/print-button';
import { Empty } from '@/kit/page';
import { lab } from '@/lib/lab';
import { lotContext } from '@/lib/lot-page';
import { LabDay } from '@/kit/lab-time';
import { Table } from '@/kit/table';

export const metadata = { title: 'Pick list' };

/** The drawn cells on paper, in the order of the lot, with boxes to tick. */
export default async function PickListPage({ params }: { params: Promise<{ code: string }> }) {
  const { who, head } = await lotContext((await params).code);
  const sample = await lotSample(lab(), who, { lotId: head.lot.id });
  if (!sample)
    return (
      <Empty title="No sample is drawn yet">
        <Link href={`/lots/${head.lot.code}/arrival/sampling`} className="underline">
          Draw it
        </Link>{' '}
        first.
      </Empty>
    );
  return (
    <div className="max-w-4xl">
      <div className="mb-3 flex items-start justify-between gap-4">
        <div>
          <h1 className="text-2xl font-semibold">Pick list, {head.lot.code}</h1>
          <p>
            {head.lot.title}: {sample.picks.length} of {sample.plan.lotSize} cells. {sample.words}
          </p>
          <p className="text-quiet">
            Seed {sample.plan.seed}, drawn by {sample.person} on <LabDay at={sample.plan.at} />.
          </p>
        </div>
        <PrintButton />
      </div>
      <Table>
        <thead>
          <tr>
            <th>Taken</th>
            <th>Cell</th>
            <th>Code</th>
            <th>Box</th>
            <th>Produced</th>
          </tr>
        </thead>
        <tbody>
          {sample.picks.map((pick) => (
            <tr key={pick.id} className="break-inside-avoid">
              <td>
                <span className="inline-block size-4 border border-strong-rule" aria-hidden />
              </td>
              <td className="font-medium tabular-nums">{pick.number}</td>
              <td className="tabular-nums">{pick.label ?? '–'}</td>
              <td>{pick.box ?? '–'}</td>
              <td className="tabular-nums">{pick.producedOn ?? '–'}</td>
            </tr>
          ))}
        </tbody>
      </Table>
    </div>
  );
}
