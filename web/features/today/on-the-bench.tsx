'use client';

import type { LiveBoard } from '@dusk-tally/lab/bench';
import { Link } from '@/kit/link';
import { useClock } from '@/kit/use-clock';

/** What runs on the bench, and until when. */
export function OnTheBench({ board }: { board: LiveBoard }) {
  const clock = useClock();
  const runs = board.channels.flatMap(({ run }) => (run && run.phase !== 'ended' ? [run] : []));
  if (runs.length === 0) return null;
  const last = runs
    .map(({ finishAt }) => finishAt ?? '')
    .sort()
    .pop();
  return (
    <Link href="/bench" className="rounded-sm underline underline-offset-4">
      {runs.length} {runs.length === 1 ? 'cell is' : 'cells are'} on the bench
      {last ? `, the last till ${clock(last, new Date(board.at))}` : ''}
    </Link>
  );
}
