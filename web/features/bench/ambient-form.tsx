'use client';

import { useState } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { Beside } from '@/kit/panel-over';
import { useAct } from '@/kit/use-act';
import { readAmbientAct } from './bench-acts';
import { useClock } from '@/kit/use-clock';
import { Label } from '@/kit/form-parts';
import { NumberInput } from '@/kit/quantity-field';
import { typedNumber } from '@/kit/typed-number';

/** The room’s temperature, as last read; asked for before a charge. */
export function AmbientForm({
  celsius,
  at,
  now,
}: {
  celsius: number | null;
  at: string | null;
  now: Date;
}) {
  const clock = useClock();
  const { run, busy, problem } = useAct();
  const [open, setOpen] = useState(false);
  const [text, setText] = useState('');
  return (
    <Beside
      open={open}
      onOpen={setOpen}
      width="w-64"
      align="center"
      trigger={
        <button
          type="button"
          className="rounded-sm underline decoration-dotted underline-offset-4 hover:text-ink"
        >
          {celsius === null || at === null
            ? 'room not read yet'
            : `room ${celsius.toFixed(1)} °C, read ${clock(at, now)}`}
        </button>
      }
    >
      <form
        className="space-y-2"
        onSubmit={(event) => {
          event.preventDefault();
          run(
            () => readAmbientAct({ celsius: typedNumber(text, 'temperatureC') ?? NaN }),
            () => setOpen(false),
          );
        }}
      >
        <Label text="Room now / °C">
          <NumberInput
            quantity="temperatureC"
            text={text}
            onText={(next) => setText(next)}
            autoFocus
          />
        </Label>
        <Button type="submit" look="primary" disabled={busy || text.trim() === ''}>
          Keep
        </Button>
        {problem && <Problem>{problem}</Problem>}
      </form>
    </Beside>
  );
}
