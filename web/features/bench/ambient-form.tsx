'use client';

import { useState } from 'react';
import { NumberField } from '@/kit/form/fields';
import { Form } from '@/kit/form/form';
import { useLabForm } from '@/kit/form/use-lab-form';
import { Beside } from '@/kit/panel-over';
import { useClock } from '@/kit/use-clock';
import { readAmbientAct } from './bench-acts';

function Reading({ done }: { done: () => void }) {
  const form = useLabForm({
    schema: 'ambientInput',
    first: { celsius: null },
    act: readAmbientAct,
    done,
  });
  return (
    <Form of={form} label="The room" act="Keep" className="space-y-2">
      <NumberField name="celsius" quantity="temperatureC" label="Room now / °C" />
    </Form>
  );
}

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
  const [open, setOpen] = useState(false);
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
      <Reading done={() => setOpen(false)} />
    </Beside>
  );
}
