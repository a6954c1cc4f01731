import { benchLots, parallelCharges } from '@dusk-tally/lab/bench';
import { ParallelView } from '@/features/bench/parallel-view';
import { Empty } from '@/kit/page';
import { lab } from '@/lib/lab';
import { requireActor } from '@/lib/session';

export const metadata = { title: 'Parallel charge' };

export default async function ParallelPage({
  searchParams,
}: {
  searchParams: Promise<{ lot?: string }>;
}) {
  const who = await requireActor();
  const lots = await benchLots(lab(), who, {});
  const wanted = Number((await searchParams).lot);
  const lot = lots.find(({ id }) => id === wanted) ?? lots[0];
  if (!lot)
    return (
      <Empty title="No lot is ready">A bank is charged from cells of a lot that has arrived.</Empty>
    );
  return (
    <ParallelView
      key={lot.id}
      lots={lots.map(({ id, code, title }) => ({ id, code, title }))}
      lotId={lot.id}
      banks={await parallelCharges(lab(), who, { lotId: lot.id })}
    />
  );
}
