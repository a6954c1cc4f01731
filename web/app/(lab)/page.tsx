import { liveBoard } from '@dusk-tally/lab/bench';
import { today } from '@dusk-tally/lab/today';
import { BenchToday } from '@/features/bench/bench-today';
import { CalibrationToday, TodayList } from '@/features/verdicts/today-list';
import { ButtonLink } from '@/kit/button';
import { Empty, PageHead } from '@/kit/page';
import { lab } from '@/lib/lab';
import { requireActor } from '@/lib/session';
import { HeldLine } from '@/features/frame/held-line';

export const metadata = { title: 'Today' };

export default async function TodayPage() {
  const who = await requireActor();
  const [{ items, heads }, board] = await Promise.all([
    today(lab(), who, {}),
    liveBoard(lab(), who, {}),
  ]);
  return (
    <>
      <PageHead
        title="Today"
        lead={
          heads.length > 0
            ? `${items.every(({ lot }) => lot === null) ? 'Nothing waits' : 'What waits'} in ${heads.length} ${heads.length === 1 ? 'lot' : 'lots'}.`
            : undefined
        }
      >
        <ButtonLink look="primary" href="/arrivals/new">
          Take in a lot
        </ButtonLink>
      </PageHead>
      <HeldLine className="mb-4 lg:hidden" />
      <BenchToday board={board} items={items.filter(({ stage }) => stage === 'bench')} />
      <CalibrationToday items={items.filter(({ stage }) => stage === 'evidence')} />
      {heads.length === 0 ? (
        <Empty title="No lot is here yet">
          Take in the first one: where it is from, how many cells, and what was claimed for them.
        </Empty>
      ) : (
        <TodayList items={items} heads={heads} />
      )}
    </>
  );
}
