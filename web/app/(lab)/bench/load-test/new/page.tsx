import { stringLots, stringOfRun } from '@dusk-tally/lab/bench';
import { StringTestLoader } from '@/features/bench/string-test-loader';
import { Empty } from '@/kit/page';
import { idOf } from '@/lib/id-param';
import { lab } from '@/lib/lab';
import { orNotFound } from '@/lib/lot-page';
import { requireActor } from '@/lib/session';

export const metadata = { title: 'New load test' };

export default async function NewLoadTestPage({
  searchParams,
}: {
  searchParams: Promise<{ run?: string | string[] }>;
}) {
  const who = await requireActor();
  const lots = await stringLots(lab(), who, {});
  if (lots.length === 0)
    return <Empty title="No lot yet">A string is made of cells of a lot.</Empty>;
  const { run } = await searchParams;
  const log = run ? await orNotFound(stringOfRun(lab(), who, { runId: idOf(String(run)) })) : null;
  return (
    <StringTestLoader
      lots={lots}
      view={null}
      logged={log?.string ?? null}
      runId={log?.runId ?? null}
      lotId={log?.lotId ?? null}
    />
  );
}
