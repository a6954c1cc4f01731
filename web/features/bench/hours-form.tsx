'use client';

import type { PlanBoard } from '@dusk-tally/lab/bench';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { Beside } from '@/kit/panel-over';
import { useAct } from '@/kit/use-act';
import { changeBenchSettingsAct } from './bench-acts';
import { Input, Label } from '@/kit/form-parts';
import { Tick } from '@/kit/tick';
import { NumberInput } from '@/kit/quantity-field';

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
    <Beside
      open={open}
      onOpen={setOpen}
      width="w-80"
      align="center"
      trigger={<Button look="bare">Somebody is there {hoursWords(settings)}</Button>}
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
              <Tick
                key={name}
                checked={days.has(i + 1)}
                onChecked={(on) => {
                  const next = new Set(days);
                  if (on) next.add(i + 1);
                  else next.delete(i + 1);
                  setDays(next);
                }}
                className="gap-1"
              >
                {name}
              </Tick>
            ))}
          </div>
        </fieldset>
        <div className="grid grid-cols-2 gap-2">
          <Label text="From">
            <Input type="time" value={from} onChange={(event) => setFrom(event.target.value)} />
          </Label>
          <Label text="To">
            <Input type="time" value={to} onChange={(event) => setTo(event.target.value)} />
          </Label>
        </div>
        <Label text="Agents end runs without the app after / s">
          <NumberInput quantity="count" text={silence} onText={(next) => setSilence(next)} />
        </Label>
        <Button type="submit" look="primary" disabled={busy}>
          Keep
        </Button>
        {problem && <Problem>{problem}</Problem>}
      </form>
    </Beside>
  );
}
