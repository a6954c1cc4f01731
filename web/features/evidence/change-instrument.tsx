'use client';

import type { HistoryEntry } from '@dusk-tally/lab';
import { useMemo, useState } from 'react';
import { Button } from '@/kit/button';
import { DayField, TextField } from '@/kit/form/fields';
import { Form } from '@/kit/form/form';
import { useLabForm } from '@/kit/form/use-lab-form';
import { History } from '@/kit/history';
import { Over } from '@/kit/panel-over';
import { AccuracyFields, type InstrumentKind } from './accuracy-fields';
import { changeInstrumentAct } from './acts';
import { HoldsFrom } from './holds-from';
import { type HeldPeriod, WhatHeld } from './what-held';

/** An instrument as it is described now. */
export interface DescribedInstrument {
  id: number;
  version: number;
  kind: InstrumentKind;
  name: string;
  serial: string | null;
  accuracy: Parameters<typeof changeInstrumentAct>[0]['accuracy'];
  calibratedOn: string | null;
  dueOn: string | null;
}

function ChangeForm({ instrument, done }: { instrument: DescribedInstrument; done: () => void }) {
  const { kind, ...rest } = instrument;
  const first = useMemo(
    () => ({ ...rest, serial: rest.serial ?? '', holdsFrom: null, reason: '' }),
    // What it is now, also where the page was renewed after the form was opened.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [instrument.version],
  );
  const form = useLabForm({
    schema: 'instrumentChange',
    first: first as Parameters<typeof changeInstrumentAct>[0],
    act: changeInstrumentAct,
    done,
  });
  const { form: fields } = form;
  const mend = ({ holdsFrom, data: { accuracy, calibratedOn, dueOn } }: HeldPeriod) =>
    fields.reset(
      { ...fields.getValues(), ...(accuracy && { accuracy }), calibratedOn, dueOn, holdsFrom },
      { keepDefaultValues: true },
    );
  return (
    <Form
      of={form}
      label={`Change ${instrument.name}`}
      act="Keep the change"
      names={{ name: 'Name', serial: 'Serial', calibratedOn: 'Calibrated on', dueOn: 'Due on' }}
    >
      <div className="grid gap-3 sm:grid-cols-3">
        <TextField name="name" label="Name" />
        <TextField name="serial" label="Serial" />
        <AccuracyFields kind={kind} />
        <DayField name="calibratedOn" label="Calibrated on" />
        <DayField name="dueOn" label="Due on" />
      </div>
      <HoldsFrom instrumentId={instrument.id} channelId={null} />
      <WhatHeld instrumentId={instrument.id} channelId={null} mend={mend} />
      <TextField name="reason" label="Why" />
    </Form>
  );
}

/** Changes what holds of an instrument from a day on; its history stands below. */
export function ChangeInstrument({
  instrument,
  history,
}: {
  instrument: DescribedInstrument;
  history: readonly HistoryEntry[];
}) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button
        look="bare"
        className="whitespace-nowrap"
        onClick={() => setOpen(true)}
        aria-label={`Change ${instrument.name}`}
      >
        Change …
      </Button>
      <Over
        open={open}
        onOpen={setOpen}
        width={720}
        title={`Change ${instrument.name}`}
        says="A renewed calibration, or a mistake mended. Results of earlier days keep what held then."
      >
        {open && <ChangeForm instrument={instrument} done={() => setOpen(false)} />}
        <History entries={history} />
      </Over>
    </>
  );
}
