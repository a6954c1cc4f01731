import { cellLines, lotList, verdictOfLot } from '@dusk-tally/lab/verdicts';
import { Link } from '@/kit/link';
import { Empty, PageHead } from '@/kit/page';
import { TallyThumb } from '@/kit/tally-strokes';
import { lab } from '@/lib/lab';
import { requireActor } from '@/lib/session';

export const metadata = { title: 'Verdicts' };

export default async function VerdictsPage() {
  const heads = await lotList(lab(), await requireActor(), {});
  const verdicts = await Promise.all(
    heads.map(async (head) => ({
      head,
      verdict: await verdictOfLot(lab(), head, await cellLines(lab(), head.lot.id)),
    })),
  );
  return (
    <>
      <PageHead title="Verdicts" lead="Each lot against its claim, in one sentence." />
      {heads.length === 0 && (
        <Empty title="No lot is here yet">
          A verdict needs a lot with a claim and at least one tested cell.
        </Empty>
      )}
      <ul className="space-y-3">
        {verdicts.map(({ head, verdict }) => (
          <li key={head.lot.id} className="panel p-4">
            <div className="flex flex-wrap items-center justify-between gap-3">
              <Link
                href={`/lots/${head.lot.code}/verdict`}
                className="font-semibold hover:underline"
              >
                {head.lot.title}
              </Link>
              <TallyThumb strokes={head.strokes} width={380} height={28} />
            </div>
            <p className="mt-1 max-w-[80ch]">{verdict.sentence}</p>
          </li>
        ))}
      </ul>
    </>
  );
}
