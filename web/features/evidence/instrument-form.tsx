'use client';

import { useActionState, useState } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { addInstrumentAct } from './acts';
import { Input, Label } from '@/kit/form-parts';
import { Choice, Option } from '@/kit/choice';
import { DateField } from '@/kit/date-field';

function Field({ name, label, text = false }: { name: string; label: string; text?: boolean }) {
  return (
    <Label text={label}>
      <Input name={name} inputMode={text ? 'text' : 'decimal'} />
    </Label>
  );
}

function Day({ name, label }: { name: string; label: string }) {
  const [day, setDay] = useState('');
  return (
    <Label text={label}>
      <DateField name={name} value={day} onValue={setDay} />
    </Label>
  );
}

/** An instrument with the accuracy its data sheet or calibration states. */
export function InstrumentForm() {
  const [outcome, act, busy] = useActionState(addInstrumentAct, null);
  const [kind, setKind] = useState('tester');
  const offsetUnit = { tester: 'mA', acMeter: 'mΩ', voltmeter: 'mV', scale: 'g', caliper: 'mm' }[
    kind
  ];
  return (
    <form action={act} className="mt-4 space-y-3 border-t border-rule pt-4">
      <div className="grid gap-3 sm:grid-cols-4">
        <Label text="Kind">
          <Choice name="kind" value={kind} onValue={(next) => setKind(next)}>
            <Option value="tester">Tester that logs current</Option>
            <Option value="acMeter">AC resistance meter</Option>
            <Option value="voltmeter">Voltmeter</Option>
            <Option value="scale">Scale</Option>
            <Option value="caliper">Caliper</Option>
          </Choice>
        </Label>
        <Field name="name" label="Name" text />
        <Field name="serial" label="Serial" text />
        <Field name="gainPct" label={`${kind === 'tester' ? 'Current, ' : ''}± % of reading`} />
        <Field name="offset" label={`${kind === 'tester' ? 'Current, ' : ''}± ${offsetUnit}`} />
        {kind === 'tester' && (
          <>
            <Field name="voltageGainPct" label="Voltage, ± % of reading" />
            <Field name="voltageOffset" label="Voltage, ± mV" />
            <Field name="timePpm" label="Clock, ± ppm" />
          </>
        )}
        <Day name="calibratedOn" label="Calibrated on" />
        <Day name="dueOn" label="Due on" />
      </div>
      {outcome && !outcome.ok && <Problem>{outcome.message}</Problem>}
      <Button type="submit" disabled={busy}>
        Add the instrument
      </Button>
    </form>
  );
}
