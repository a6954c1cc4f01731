import { liveBoard, liveCurves, reminders } from '@dusk-tally/lab/bench';
import { LiveView } from '@/features/bench/live-view';
import { lab } from '@/lib/lab';
import { requireActor } from '@/lib/session';

export const metadata = { title: 'Bench' };

export default async function BenchPage() {
  const who = await requireActor();
  const [first, due, curves] = await Promise.all([
    liveBoard(lab(), who, {}),
    reminders(lab(), who, {}),
    liveCurves(lab(), who, {}),
  ]);
  return <LiveView first={first} due={due} curves={curves} />;
}
