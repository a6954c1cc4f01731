'use client';

import type { LiveBoard } from '@dusk-tally/lab/bench';
import type { Due } from '@dusk-tally/lab/today';
import { BellRing, Gauge, type LucideIcon, Plug } from 'lucide-react';
import Link from 'next/link';
import type { ReactNode } from 'react';
import { useClock } from './use-clock';

/** What comes later than this is not shown yet, ms. */
const AHEAD_MS = 12 * 3_600_000;

const ICONS: Record<string, LucideIcon> = { alarm: BellRing, connect: Plug };

function Line({
  icon: Icon,
  href,
  tone,
  doing,
  children,
}: {
  icon: LucideIcon;
  href: string;
  tone?: string;
  doing?: string;
  children: ReactNode;
}) {
  return (
    <li>
      <Link
        href={href}
        className="flex min-h-10 items-center gap-3 rounded-sm px-1 py-1.5 hover:bg-wash"
      >
        <Icon size={16} className={`shrink-0 ${tone ?? 'text-quiet'}`} aria-hidden />
        <span>{children}</span>
        {doing && <span className="ml-auto whitespace-nowrap text-ember">{doing}</span>}
      </Link>
    </li>
  );
}

/** What the bench wants today: alarms, what is overdue or soon due, what runs and until when. */
export function BenchToday({ board, items }: { board: LiveBoard; items: readonly Due[] }) {
  const clock = useClock();
  const now = new Date(board.at);
  const runs = board.channels.flatMap(({ run }) => (run && run.phase !== 'ended' ? [run] : []));
  const alarms = items.filter(({ kind }) => kind === 'alarm' || kind === 'setAside');
  const ahead = items
    .filter(({ at }) => at !== null && at.getTime() - now.getTime() < AHEAD_MS)
    .sort((a, b) => a.at!.getTime() - b.at!.getTime());
  const connections = ahead.filter(({ kind }) => kind === 'connect');
  // Many cells to connect are one thing to do; the plan says which goes where.
  const soon = connections.length > 2 ? ahead.filter(({ kind }) => kind !== 'connect') : ahead;
  const last = runs
    .map(({ finishAt }) => finishAt ?? '')
    .sort()
    .pop();
  if (runs.length === 0 && alarms.length === 0 && ahead.length === 0) return null;
  const edge = alarms.some(({ urgency }) => urgency === 'danger')
    ? 'border-2 border-missed'
    : alarms.length > 0
      ? 'border-2 border-doubt'
      : '';
  return (
    <section className={`panel mb-4 p-4 ${edge}`} aria-labelledby="today-bench">
      <h2 id="today-bench" className="font-semibold">
        Bench
      </h2>
      <ul className="mt-2 divide-y divide-rule">
        {alarms.slice(0, 4).map(({ key, path, note, urgency }) => (
          <Line
            key={key}
            icon={BellRing}
            href={path}
            tone={urgency === 'danger' ? 'text-missed' : 'text-doubt'}
            doing="What to do"
          >
            {note}
          </Line>
        ))}
        {runs.length > 0 && (
          <Line icon={Gauge} href="/bench" doing="Watch">
            {runs.length} {runs.length === 1 ? 'cell is' : 'cells are'} on the bench
            {last ? `, the last till ${clock(last, now)}` : ''}
          </Line>
        )}
        {connections.length > 2 && (
          <Line icon={Plug} href="/bench/plan" doing="See the plan">
            {connections.length} cells are to be connected,{' '}
            {connections[0]!.at! < now ? 'the first since' : 'the first at'}{' '}
            {clock(connections[0]!.at!.toISOString(), now)}
          </Line>
        )}
        {soon.slice(0, 5).map(({ key, kind, path, note, at }) => {
          const isOverdue = at! < now;
          return (
            <Line key={key} icon={ICONS[kind] ?? Gauge} href={path}>
              <span className={isOverdue ? 'font-semibold' : ''}>
                {note}, {isOverdue ? 'since' : 'at'} {clock(at!.toISOString(), now)}
              </span>
            </Line>
          );
        })}
      </ul>
    </section>
  );
}
