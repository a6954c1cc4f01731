import { listInstruments } from '@dusk-tally/lab/evidence';
import { handRound } from '@dusk-tally/lab/gathering';
import { restShelf } from '@dusk-tally/lab/resting';
import { today } from '@dusk-tally/lab/today';
import { Link } from '@/kit/link';
import { RoundView } from '@/features/bench/round-view';
import { ShelfView } from '@/features/resting/shelf-view';
import { Empty } from '@/kit/page';
import { lab } from '@/lib/lab';
import { requireActor } from '@/lib/session';

export const metadata = { title: 'Round' };

export default async function RoundPage() {
  const who = await requireActor();
  const [{ stops, now }, shelf, instruments, { items }] = await Promise.all([
    handRound(lab(), who, {}),
    restShelf(lab(), who, {}),
    listInstruments(lab(), who, {}),
    today(lab(), who, {}),
  ]);
  const due = shelf.filter(
    ({ endedAt, state }) => endedAt === null && (state === 'due' || state === 'late'),
  );
  const heat = items.filter(({ kind }) => kind === 'recovering');
  const meters = instruments
    .filter(({ kind }) => kind === 'voltmeter')
    .map(({ id, name }) => ({ id, name }));
  return (
    <div className="space-y-6">
      {heat.map(({ key, lot, count, path }) => (
        <p key={key} className="rounded-sm border-l-4 border-missed bg-wash px-3 py-2">
          {count} {count === 1 ? 'cell of' : 'cells of'} {lot?.code} {count === 1 ? 'is' : 'are'} in
          slow recovery: feel them 5, 15 and 30 minutes after the charge came on.{' '}
          <Link href={path} className="underline">
            Note how warm they are
          </Link>
        </p>
      ))}
      {stops.length === 0 && due.length === 0 && heat.length === 0 ? (
        <Empty title="Nothing to walk past">
          Testers without wires appear here once a run was started on them, cells of the shelf on
          the day they are due, and cells in slow recovery for their heat checks.
        </Empty>
      ) : (
        <>
          {stops.length > 0 && <RoundView stops={stops} now={new Date(now)} />}
          {due.length > 0 && (
            <section aria-label="Shelf" className="space-y-2">
              <h2 className="text-lg font-semibold">On the shelf, due today</h2>
              <ShelfView lines={due} meters={meters} now={new Date(now)} />
            </section>
          )}
        </>
      )}
    </div>
  );
}
