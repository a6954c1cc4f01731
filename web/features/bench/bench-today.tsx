'use client';

import type { LiveBoard, Reminder } from '@dusk-tally/lab/bench';
import { BellRing, Gauge } from 'lucide-react';
import Link from 'next/link';
import { groupAlarms } from './alarm-groups';
import { useClock } from './use-clock';

const edgeOf = (alarms: LiveBoard['alarms']) =>
  alarms.length === 0
    ? ''
    : alarms.every(({ action }) => action === 'tell')
      ? 'border-2 border-doubt'
      : 'border-2 border-missed';

/** What the bench wants today: alarms, what is overdue, what runs and until when. */
export function BenchToday({ board, due }: { board: LiveBoard; due: readonly Reminder[] }) {
  const clock = useClock();
  const now = new Date(board.at);
  const runs = board.channels.flatMap(({ run }) => (run && run.phase !== 'ended' ? [run] : []));
  const soon = due.filter(
    ({ isOverdue, at }) => isOverdue || Date.parse(at) - now.getTime() < 12 * 3_600_000,
  );
  const last = runs
    .map(({ finishAt }) => finishAt ?? '')
    .sort()
    .pop();
  if (runs.length === 0 && board.alarms.length === 0 && soon.length === 0) return null;
  return (
    <section className={`panel mb-4 p-4 ${edgeOf(board.alarms)}`} aria-labelledby="today-bench">
      <h2 id="today-bench" className="font-semibold">
        Bench
      </h2>
      <ul className="mt-2 divide-y divide-rule">
        {groupAlarms(board.alarms)
          .slice(0, 4)
          .map(([alarm, ...alike]) => (
            <li key={alarm!.id}>
              <Link
                href="/bench"
                className="flex min-h-10 items-center gap-3 rounded-sm px-1 py-1.5 hover:bg-wash"
              >
                <BellRing
                  size={16}
                  className={`shrink-0 ${alarm!.action === 'tell' ? 'text-doubt' : 'text-missed'}`}
                  aria-hidden
                />
                <span>
                  <strong>{alarm!.cell}</strong>
                  {alike.length > 0 && ` and ${alike.length} more`}: {alarm!.title}. {alarm!.text}
                </span>
                <span className="ml-auto whitespace-nowrap text-ember">What to do</span>
              </Link>
            </li>
          ))}
        {runs.length > 0 && (
          <li>
            <Link
              href="/bench"
              className="flex min-h-10 items-center gap-3 rounded-sm px-1 py-1.5 hover:bg-wash"
            >
              <Gauge size={16} className="shrink-0 text-quiet" aria-hidden />
              <span>
                {runs.length} {runs.length === 1 ? 'cell is' : 'cells are'} on the bench
                {last ? `, the last till ${clock(last, now)}` : ''}
              </span>
              <span className="ml-auto whitespace-nowrap text-ember">Watch</span>
            </Link>
          </li>
        )}
        {soon.slice(0, 5).map((one) => (
          <li key={`${one.benchRunId}-${one.at}`}>
            <Link
              href={`/bench/runs/${one.benchRunId}`}
              className="flex min-h-10 items-center gap-3 rounded-sm px-1 py-1.5 hover:bg-wash"
            >
              <Gauge size={16} className="shrink-0 text-quiet" aria-hidden />
              <span className={one.isOverdue ? 'font-semibold' : ''}>
                {one.text}, {one.isOverdue ? 'since' : 'at'} {clock(one.at, now)}
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}
