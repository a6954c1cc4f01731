'use client';

import type { PlanBoard } from '@dusk-tally/lab/bench';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { ClockField, clockWords, NumberField, SomeField } from '@/kit/form/fields';
import { Form } from '@/kit/form/form';
import { useLabForm } from '@/kit/form/use-lab-form';
import { Beside } from '@/kit/panel-over';
import { changeBenchSettingsAct } from './bench-acts';

const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];
type Settings = PlanBoard['settings'];

/** `Mon–Fri 08:00–18:00`. */
export const hoursWords = ({ attendedDays, attendedFromMin, attendedToMin }: Settings): string => {
  const days = [...attendedDays].sort((a, b) => a - b);
  const run = days.every((day, i) => i === 0 || day === days[i - 1]! + 1) && days.length > 2;
  const words = run
    ? `${DAYS[days[0]! - 1]}–${DAYS[days[days.length - 1]! - 1]}`
    : days.map((day) => DAYS[day - 1]).join(', ');
  return `${words} ${clockWords(attendedFromMin)}–${clockWords(attendedToMin)}`;
};

function Hours({ settings, done }: { settings: Settings; done: () => void }) {
  const { version, attendedDays, attendedFromMin, attendedToMin, silenceLimitS } = settings;
  const form = useLabForm({
    schema: 'benchSettingsInput',
    first: {
      version,
      attendedDays: [...attendedDays].sort((a, b) => a - b),
      attendedFromMin,
      attendedToMin,
      silenceLimitS,
    },
    act: changeBenchSettingsAct,
    done,
  });
  return (
    <Form of={form} label="Hours somebody is there" act="Keep">
      <SomeField
        name="attendedDays"
        label="Days somebody is there"
        offered={DAYS.map((day, i) => [i + 1, day] as const)}
      />
      <div className="grid grid-cols-2 gap-2">
        <ClockField name="attendedFromMin" label="From" />
        <ClockField name="attendedToMin" label="To" />
      </div>
      <NumberField
        name="silenceLimitS"
        quantity="count"
        label="Agents end runs without the app after / s"
      />
    </Form>
  );
}

/** When somebody is there. */
export function HoursForm({ settings, mayLead }: { settings: Settings; mayLead: boolean }) {
  const [open, setOpen] = useState(false);
  if (!mayLead) return <span className="text-quiet">Somebody is there {hoursWords(settings)}</span>;
  return (
    <Beside
      open={open}
      onOpen={setOpen}
      width="w-80"
      align="center"
      trigger={<Button look="bare">Somebody is there {hoursWords(settings)}</Button>}
    >
      <Hours settings={settings} done={() => setOpen(false)} />
    </Beside>
  );
}
