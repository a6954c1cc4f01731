'use client';

import { Popover } from 'radix-ui';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { useAct } from '@/kit/use-act';
import { readAmbientAct } from './bench-acts';
import { useClock } from './use-clock';

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
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className="rounded-sm underline decoration-dotted underline-offset-4 hover:text-ink">
        {celsius === null || at === null
          ? 'room not read yet'
          : `room ${celsius.toFixed(1)} °C, read ${clock(at, now)}`}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          sideOffset={6}
          className="z-40 w-64 rounded-md border border-strong-rule bg-raised p-4"
        >
          <form
            className="space-y-2"
            onSubmit={(event) => {
              event.preventDefault();
              run(
                () => readAmbientAct({ celsius: Number(text.replace(',', '.')) }),
                () => setOpen(false),
              );
            }}
          >
            <label className="block">
              <span className="mb-1 block text-quiet">Room now / °C</span>
              <input
                className="field"
                inputMode="decimal"
                value={text}
                onChange={(event) => setText(event.target.value)}
                autoFocus
              />
            </label>
            <Button type="submit" look="primary" disabled={busy || text.trim() === ''}>
              Keep
            </Button>
            {problem && <Problem>{problem}</Problem>}
          </form>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
