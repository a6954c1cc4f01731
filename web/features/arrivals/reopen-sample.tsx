'use client';

import type { SampleView } from '@dusk-tally/lab/arrivals';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { TextField } from '@/kit/form/fields';
import { Form } from '@/kit/form/form';
import { useLabForm } from '@/kit/form/use-lab-form';
import { LabDay } from '@/kit/lab-time';
import { Over } from '@/kit/panel-over';
import { reopenSampleAct } from './acts';

function Reason({ lotId, planId, done }: { lotId: number; planId: number; done: () => void }) {
  const form = useLabForm({
    schema: 'reopenSampleInput',
    first: { lotId, planId, reason: '' },
    act: reopenSampleAct,
    done,
  });
  return (
    <Form of={form} label="Open the sample again" act="Open it again">
      <TextField name="reason" label="Why" />
    </Form>
  );
}

/** What was decided stays, until a lead opens it again for a reason that is kept. */
export function ReopenSample({
  lotId,
  sample: { plan, decidedAt, reopened },
  mayLead,
}: {
  lotId: number;
  sample: SampleView;
  mayLead: boolean;
}) {
  const [open, setOpen] = useState(false);
  return (
    <>
      {reopened.map(({ at, reason }) => (
        <p key={String(at)} className="mt-1 border-l-4 border-doubt pl-3">
          Opened again on <LabDay at={at} />: {reason}
        </p>
      ))}
      {decidedAt !== null && (
        <p className="mt-1 text-quiet">
          Decided on <LabDay at={decidedAt} />; later results of these cells do not change it.{' '}
          {mayLead && (
            <Button look="bare" onClick={() => setOpen(true)}>
              Open the sample again …
            </Button>
          )}
        </p>
      )}
      <Over
        open={open}
        onOpen={setOpen}
        width={460}
        title="Open the sample again"
        says="Each cell counts by what it stands at now. The reason stays beside the sample."
      >
        {open && <Reason lotId={lotId} planId={plan.id} done={() => setOpen(false)} />}
      </Over>
    </>
  );
}
