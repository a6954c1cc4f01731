import { lotList } from '@dusk-tally/lab/verdicts';
import { LotRows } from '@/features/arrivals/lot-rows';
import { ButtonLink } from '@/kit/button';
import { Empty, PageHead } from '@/kit/page';
import { lab } from '@/lib/lab';
import { requireActor } from '@/lib/session';

export const metadata = { title: 'Arrivals' };

export default async function ArrivalsPage() {
  const heads = await lotList(lab(), await requireActor(), {});
  return (
    <>
      <PageHead
        title="Arrivals"
        lead="Lots as they came, newest first, with what is still open on arrival."
      >
        <ButtonLink look="primary" href="/arrivals/new">
          Take in a lot
        </ButtonLink>
      </PageHead>
      {heads.length === 0 ? (
        <Empty title="No lot is here yet">
          Take in the first one: where it is from, how many cells, and what was claimed for them.
        </Empty>
      ) : (
        <div className="panel overflow-x-auto p-2">
          <LotRows heads={heads} />
        </div>
      )}
    </>
  );
}
