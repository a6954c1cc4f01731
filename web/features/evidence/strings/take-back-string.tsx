'use client';

import { useState } from 'react';
import { Button } from '@/kit/button';
import { TextField } from '@/kit/form/fields';
import { Form } from '@/kit/form/form';
import { useLabForm } from '@/kit/form/use-lab-form';
import { Over } from '@/kit/panel-over';
import { takeBackStringAct } from '../acts';

interface Taken {
  id: number;
  version: number;
  name: string;
}

function Reason({ of: { id, version }, done }: { of: Taken; done: () => void }) {
  const form = useLabForm({
    schema: 'takeBackStringInput',
    first: { stringId: id, version, reason: '' },
    act: takeBackStringAct,
    done,
  });
  return (
    <Form of={form} label="Take the log back" act="Take it back">
      <TextField name="reason" label="Why" />
    </Form>
  );
}

/** Takes a log back that was taken in for the wrong lot, with a reason. */
export function TakeBackString({ of }: { of: Taken }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button look="bare" onClick={() => setOpen(true)}>
        Take back …
      </Button>
      <Over
        open={open}
        onOpen={setOpen}
        width={460}
        title={`Take “${of.name}” back`}
        says="It stays stored, says nothing of its cells any more, and can be taken in again for the right lot."
      >
        {open && <Reason of={of} done={() => setOpen(false)} />}
      </Over>
    </>
  );
}
