'use client';

import type { PlanBoard } from '@dusk-tally/lab/bench';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { useAct } from '@/kit/use-act';
import { changeBenchSettingsAct } from './bench-acts';

const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];
const clock = (minutes: number) =>
  `${String(Math.floor(minutes / 60)).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}`;
const minutesOf = (text: string) => {
  const [hours, minutes] = text.split(':').map(Number);
  return (hours ?? 0) * 60 + (minutes ?? 0);
};

type Settings = PlanBoard['settings'];

/** `Mon–Fri 08:00–18:00`. */
export const hoursWords = ({ attendedDays, attendedFromMin, attendedToMin }: Settings): string => {
  const days = [...attendedDays].sort((a, b) => a - b);
  const run = days.every((day, i) => i === 0 || day === days[i - 1]! + 1) && days.length > 2;
  const words = run
    ? `${DAYS[days[0]! - 1]}–${DAYS[days[days.length - 1]! - 1]}`
    : days.map((day) => DAYS[day - 1]).join(', ');
  return `${words} ${clock(attendedFromMin)}–${clock(attendedToMin)}`;
};

/** When somebody is there. */
export function HoursForm({ settings, mayLead }: { settings: Settings; mayLead: boolean }) {
  const { run, busy, problem } = useAct();
  const [open, setOpen] = useState(false);
  const [days, setDays] = useState<ReadonlySet<number>>(new Set(settings.attendedDays));
  const [from, setFrom] = useState(clock(settings.attendedFromMin));
  const [to, setTo] = useState(clock(settings.attendedToMin));
  const [silence, setSilence] = useState(String(settings.silenceLimitS));
  if (!mayLead) return <span className="text-quiet">Somebody is there {hoursWords(settings)}</span>;
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <Button look="bare">Somebody is there {hoursWords(settings)}</Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          sideOffset={6}
          className="z-40 w-80 rounded-md border border-strong-rule bg-raised p-4"
        >
          <form
            className="space-y-3"
            onSubmit={(event) => {
              event.preventDefault();
              run(
                () =>
                  changeBenchSettingsAct({
                    version: settings.version,
                    attendedDays: [...days].sort((a, b) => a - b),
                    attendedFromMin: minutesOf(from),
                    attendedToMin: minutesOf(to),
                    silenceLimitS: Number(silence),
                  }),
                () => setOpen(false),
              );
            }}
          >
            <fieldset>
              <legend className="mb-1 text-quiet">Days somebody is there</legend>
              <div className="flex flex-wrap gap-2">
                {DAYS.map((name, i) => (
                  <label key={name} className="flex items-center gap-1">
                    <input
                      type="checkbox"
                      checked={days.has(i + 1)}
                      onChange={(event) => {
                        const next = new Set(days);
                        if (event.target.checked) next.add(i + 1);
                        else next.delete(i + 1);
                        setDays(next);
                      }}
                    />
                    {name}
                  </label>
                ))}
              </div>
            </fieldset>
            <div className="grid grid-cols-2 gap-2">
              <label>
                <span className="mb-1 block text-quiet">From</span>
                <input
                  type="time"
                  className="field"
                  value={from}
                  onChange={(event) => setFrom(event.target.value)}
                />
              </label>
              <label>
                <span className="mb-1 block text-quiet">To</span>
                <input
                  type="time"
                  className="field"
                  value={to}
                  onChange={(event) => setTo(event.target.value)}
                />
              </label>
            </div>
            <label className="block">
              <span className="mb-1 block text-quiet">
                Agents end runs without the app after / s
              </span>
              <input
                className="field"
                inputMode="numeric"
                value={silence}
                onChange={(event) => setSilence(event.target.value)}
              />
            </label>
            <Button type="submit" look="primary" disabled={busy}>
              Keep
            </Button>
            {problem && <Problem>{problem}</Problem>}
          </form>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
