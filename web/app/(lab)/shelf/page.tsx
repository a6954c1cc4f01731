import { listInstruments } from '@dusk-tally/lab/evidence';
import { restCurves, restShelf } from '@dusk-tally/lab/resting';
import { LossCharts } from '@/features/resting/loss-chart';
import { ShelfView } from '@/features/resting/shelf-view';
import { ButtonLink } from '@/kit/button';
import { Empty, PageHead } from '@/kit/page';
import { lab } from '@/lib/lab';
import { requireActor } from '@/lib/session';

export const metadata = { title: 'Shelf' };

export default async function ShelfPage() {
  const who = await requireActor();
  const [lines, curves, instruments] = await Promise.all([
    restShelf(lab(), who, {}),
    restCurves(lab(), who, {}),
    listInstruments(lab(), who, {}),
  ]);
  const meters = instruments
    .filter(({ kind }) => kind === 'voltmeter')
    .map(({ id, name }) => ({ id, name }));
  return (
    <>
      <PageHead
        title="Shelf"
        lead="Full cells that stand and are read on their day: what they lose tells what they keep."
      >
        <ButtonLink href="/shelf/protocols">Protocols</ButtonLink>
      </PageHead>
      {lines.length === 0 ? (
        <Empty title="Nothing stands on the shelf">
          Choose full cells in a lot’s cells table and lay them to rest. The first day after the
          charge is relaxation; read them a day later, and again when they are due.
        </Empty>
      ) : (
        <>
          <ShelfView lines={lines} meters={meters} now={lab().now()} />
          <LossCharts curves={curves} />
        </>
      )}
    </>
  );
}
