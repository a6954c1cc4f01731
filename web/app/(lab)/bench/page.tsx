import { liveBoard, liveCurves, refusedRecords, reminders } from '@dusk-tally/lab/bench';
import { LiveView } from '@/features/bench/live-view';
import { RefusedList } from '@/features/bench/refused-list';
import { lab } from '@/lib/lab';
import { requireActor } from '@/lib/session';

export const metadata = { title: 'Bench' };

export default async function BenchPage() {
  const who = await requireActor();
  const [first, due, curves, refused] = await Promise.all([
    liveBoard(lab(), who, {}),
    reminders(lab(), who, {}),
    liveCurves(lab(), who, {}),
    refusedRecords(lab(), who, {}),
  ]);
  return (
    <>
      <RefusedList refused={refused} />
      <LiveView first={first} due={due} curves={curves} />
    </>
  );
}
