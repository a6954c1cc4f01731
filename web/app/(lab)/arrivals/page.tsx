import { lotList, type LotListRow } from '@dusk-tally/lab/verdicts';
import { arrivalWords } from '@/features/arrivals/arrival-words';
import { type LotRowView, LotsTable } from '@/features/arrivals/lots-table';
import { ButtonLink } from '@/kit/button';
import { Empty, PageHead } from '@/kit/page';
import { ROW_TALLY, thumbOf } from '@/kit/tally-strokes';
import { lab } from '@/lib/lab';
import { requireActor } from '@/lib/session';

export const metadata = { title: 'Arrivals' };

const rowOf = ({ lot, supplier, model, strokes, tested, arrival }: LotListRow): LotRowView => ({
  code: lot.code,
  title: lot.title,
  supplier: supplier.name,
  model: model.name,
  arrivedOn: lot.arrivedOn,
  quantity: lot.quantity,
  tested,
  calledOff: lot.cancelledAt !== null,
  thumb: thumbOf(strokes, ROW_TALLY),
  arrival: arrivalWords(arrival),
});

export default async function ArrivalsPage() {
  const lots = await lotList(lab(), await requireActor(), {});
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
      {lots.length === 0 ? (
        <Empty title="No lot is here yet">
          Take in the first one: where it is from, how many cells, and what was claimed for them.
        </Empty>
      ) : (
        <LotsTable lots={lots.map(rowOf)} />
      )}
    </>
  );
}
