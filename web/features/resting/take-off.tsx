'use client';

import type { ShelfLine } from '@dusk-tally/lab/resting';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { TextField } from '@/kit/form/fields';
import { Form } from '@/kit/form/form';
import { useLabForm } from '@/kit/form/use-lab-form';
import { Over } from '@/kit/panel-over';
import { takeFromShelfAct } from './acts';

function Reason({ restId, done }: { restId: number; done: () => void }) {
  const form = useLabForm({
    schema: 'takeOffInput',
    first: { restIds: [restId], reason: '' },
    act: takeFromShelfAct,
    done,
  });
  return (
    <Form of={form} label="Off the shelf" act="Take it off">
      <TextField name="reason" label="Why" />
    </Form>
  );
}

/** Takes a cell off the shelf before its rest is over, with a reason. */
export function TakeOff({ line: { restId, cell } }: { line: ShelfLine }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button look="bare" onClick={() => setOpen(true)} aria-label={`Take ${cell} off the shelf`}>
        Take off …
      </Button>
      <Over
        open={open}
        onOpen={setOpen}
        width={460}
        title={`Take ${cell} off the shelf`}
        says="What was read of it stays; the rest says nothing of it then."
      >
        {open && <Reason restId={restId} done={() => setOpen(false)} />}
      </Over>
    </>
  );
}
