import { liveBoard } from '@dusk-tally/lab/bench';
import { labSoFar, today } from '@dusk-tally/lab/today';
import { HeldLine } from '@/features/frame/held-line';
import { FirstSteps } from '@/features/today/first-steps';
import { firstSteps } from '@/features/today/first-steps-list';
import { OnTheBench } from '@/features/today/on-the-bench';
import { TodayGroups } from '@/features/today/today-groups';
import { ButtonLink } from '@/kit/button';
import { Empty, PageHead } from '@/kit/page';
import { lab } from '@/lib/lab';
import { requireActor } from '@/lib/session';

export const metadata = { title: 'Today' };

export default async function TodayPage() {
  const who = await requireActor();
  const [{ items, heads }, board] = await Promise.all([
    today(lab(), who, {}),
    liveBoard(lab(), who, {}),
  ]);
  const waiting = new Set(items.map(({ lot }) => lot?.code)).size;
  return (
    <>
      <PageHead
        title="Today"
        lead={
          heads.length > 0 && (
            <>
              {waiting === 0
                ? `Nothing waits in ${heads.length} ${heads.length === 1 ? 'lot' : 'lots'}.`
                : `What waits in ${heads.length} ${heads.length === 1 ? 'lot' : 'lots'}, the most pressing first.`}{' '}
              <OnTheBench board={board} />
            </>
          )
        }
      >
        {heads.length > 0 && (
          <ButtonLink look="primary" href="/arrivals/new">
            Take in a lot
          </ButtonLink>
        )}
      </PageHead>
      <HeldLine className="mb-4 lg:hidden" />
      <TodayGroups items={items} heads={heads} />
      {heads.length === 0 &&
        (who.role === 'technician' ? (
          <Empty title="No lot is here yet">
            A lead takes in the first one; then it waits here.
          </Empty>
        ) : (
          <FirstSteps steps={firstSteps(await labSoFar(lab(), who, {}), who.role)} />
        ))}
    </>
  );
}
