'use client';

import type { AlarmView } from '@dusk-tally/lab/bench';
import Link from 'next/link';
import { useEffect, useRef, useState } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { useAct } from '../arrivals/use-act';
import { muteForAnHour, mutedUntil, sound, unmute } from './alarm-sound';
import { acknowledgeAct } from './bench-acts';
import { clockOf } from './words';

const DONE: Record<string, string> = {
  block: 'stopped, cell blocked',
  stop: 'stopped',
  pause: 'paused',
  tell: '',
};

/** Alarms nobody has seen yet, worst first, each with what to do; a sound for new ones. */
export function AlarmList({ alarms, now }: { alarms: readonly AlarmView[]; now: Date }) {
  const { run, busy, problem } = useAct();
  const [muted, setMuted] = useState(false);
  const known = useRef(new Set<number>());
  useEffect(() => setMuted(Date.now() < mutedUntil()), []);
  useEffect(() => {
    const fresh = alarms.filter(({ id }) => !known.current.has(id));
    for (const { id } of fresh) known.current.add(id);
    if (fresh.length > 0) sound();
  }, [alarms]);
  if (alarms.length === 0) return null;
  const rank = ['block', 'stop', 'pause', 'tell'];
  const sorted = [...alarms].sort(
    (a, b) => rank.indexOf(a.action) - rank.indexOf(b.action) || b.id - a.id,
  );
  return (
    <section aria-label="Alarms" className="mb-4 rounded-md border-2 border-missed bg-sheet p-3">
      <div className="flex flex-wrap items-center justify-between gap-2">
        <h2 className="text-lg font-semibold">
          {alarms.length === 1 ? 'One alarm' : `${alarms.length} alarms`} to look at
        </h2>
        <span className="flex gap-2">
          <Button
            look="bare"
            onClick={() => {
              if (muted) unmute();
              else muteForAnHour();
              setMuted(!muted);
            }}
          >
            {muted ? 'Sound on again' : 'No sound for an hour'}
          </Button>
          <Button
            disabled={busy}
            onClick={() => run(() => acknowledgeAct({ ids: alarms.map(({ id }) => id) }))}
          >
            Seen, all of them
          </Button>
        </span>
      </div>
      {problem && <Problem>{problem}</Problem>}
      <ul className="mt-2 space-y-2">
        {sorted.slice(0, 8).map((one) => (
          <li
            key={one.id}
            className={`border-l-4 py-1 pl-3 ${one.action === 'tell' ? 'border-doubt' : 'border-missed'}`}
          >
            <p>
              <Link href={`/bench/runs/${one.benchRunId}`} className="font-semibold underline">
                {one.cell}
              </Link>
              {one.channel && <span className="text-quiet"> on {one.channel}</span>}:{' '}
              <strong>{one.title}</strong>
              {DONE[one.action] && ` (${DONE[one.action]})`}. {one.text}{' '}
              <span className="text-quiet">{clockOf(String(one.at), now)}</span>
            </p>
            <p className="max-w-[95ch]">{one.advice}</p>
            <Button
              look="bare"
              disabled={busy}
              onClick={() => run(() => acknowledgeAct({ ids: [one.id] }))}
            >
              Seen
            </Button>
          </li>
        ))}
      </ul>
      {sorted.length > 8 && <p className="mt-1 text-quiet">And {sorted.length - 8} more.</p>}
    </section>
  );
}
