'use client';

import type { AlarmView } from '@dusk-tally/lab/bench';
import { Link } from '@/kit/link';
import { useEffect, useRef, useState } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { useAct } from '@/kit/use-act';
import { groupAlarms } from './alarm-groups';
import { muteForAnHour, mutedUntil, sound, unmute } from './alarm-sound';
import { acknowledgeAct } from './bench-acts';
import { useClock } from '@/kit/use-clock';

const DONE: Record<string, string> = {
  block: 'stopped, cell blocked',
  stop: 'stopped',
  pause: 'paused',
  tell: '',
};

/** Groups of alarms shown at once. */
const MOST_GROUPS = 8;

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
  const groups = groupAlarms(alarms);
  return (
    <section
      aria-label="Alarms"
      className={`mb-4 rounded-md border-2 bg-sheet p-3 ${alarms.every(({ action }) => action === 'tell') ? 'border-doubt' : 'border-missed'}`}
    >
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
            onClick={() => run((key) => acknowledgeAct({ ids: alarms.map(({ id }) => id) }, key))}
          >
            Seen, all of them
          </Button>
        </span>
      </div>
      {problem && <Problem>{problem}</Problem>}
      <ul className="mt-2 space-y-2">
        {groups.slice(0, MOST_GROUPS).map((group) => {
          const [one] = group;
          return (
            <li
              key={one!.id}
              className={`border-l-4 py-1 pl-3 ${one!.action === 'tell' ? 'border-doubt' : 'border-missed'}`}
            >
              {group.length === 1 ? (
                <OneAlarm one={one!} now={now} />
              ) : (
                <Alike group={group} now={now} />
              )}
              <p className="max-w-[95ch]">{one!.advice}</p>
              <Button
                look="bare"
                disabled={busy}
                onClick={() =>
                  run((key) => acknowledgeAct({ ids: group.map(({ id }) => id) }, key))
                }
              >
                {group.length === 1 ? 'Seen' : `Seen, these ${group.length}`}
              </Button>
            </li>
          );
        })}
      </ul>
      {groups.length > MOST_GROUPS && (
        <p className="mt-1 text-quiet">And {groups.slice(MOST_GROUPS).flat().length} more.</p>
      )}
    </section>
  );
}

function OneAlarm({ one, now }: { one: AlarmView; now: Date }) {
  const clock = useClock();
  return (
    <p>
      <Link href={`/bench/runs/${one.benchRunId}`} className="font-semibold underline">
        {one.cell}
      </Link>
      {one.channel && <span className="text-quiet"> on {one.channel}</span>}:{' '}
      <strong>{one.title}</strong>
      {DONE[one.action] && ` (${DONE[one.action]})`}. {one.text}{' '}
      <span className="text-quiet">{clock(String(one.at), now)}</span>
    </p>
  );
}

/** The same alarm on several runs at about the same time: said once, with all of them. */
function Alike({ group, now }: { group: readonly AlarmView[]; now: Date }) {
  const clock = useClock();
  const one = group[0]!;
  return (
    <p>
      <strong>
        {one.title} on {group.length} runs
      </strong>
      {DONE[one.action] && ` (${DONE[one.action]})`}:{' '}
      {group.map((alarm, i) => (
        <span key={alarm.id}>
          {i > 0 && ', '}
          <Link href={`/bench/runs/${alarm.benchRunId}`} className="underline" title={alarm.text}>
            {alarm.cell}
          </Link>
        </span>
      ))}
      . {one.text} <span className="text-quiet">{clock(String(one.at), now)}</span>
    </p>
  );
}
