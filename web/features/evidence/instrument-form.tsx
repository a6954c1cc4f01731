'use client';

import { useActionState, useState } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { addInstrumentAct } from './acts';

function Field({ name, label, type = 'text' }: { name: string; label: string; type?: string }) {
  return (
    <label className="block">
      <span className="mb-1 block text-quiet">{label}</span>
      <input
        name={name}
        type={type}
        inputMode={type === 'text' ? undefined : 'decimal'}
        className="field"
      />
    </label>
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
        <label className="block">
          <span className="mb-1 block text-quiet">Kind</span>
          <select
            name="kind"
            className="field"
            value={kind}
            onChange={(event) => setKind(event.target.value)}
          >
            <option value="tester">Tester that logs current</option>
            <option value="acMeter">AC resistance meter</option>
            <option value="voltmeter">Voltmeter</option>
            <option value="scale">Scale</option>
            <option value="caliper">Caliper</option>
          </select>
        </label>
        <Field name="name" label="Name" />
        <Field name="serial" label="Serial" />
        <Field name="gainPct" label={`${kind === 'tester' ? 'Current, ' : ''}± % of reading`} />
        <Field name="offset" label={`${kind === 'tester' ? 'Current, ' : ''}± ${offsetUnit}`} />
        {kind === 'tester' && (
          <>
            <Field name="voltageGainPct" label="Voltage, ± % of reading" />
            <Field name="voltageOffset" label="Voltage, ± mV" />
            <Field name="timePpm" label="Clock, ± ppm" />
          </>
        )}
        <Field name="calibratedOn" label="Calibrated on" type="date" />
        <Field name="dueOn" label="Due on" type="date" />
      </div>
      {outcome && !outcome.ok && <Problem>{outcome.message}</Problem>}
      <Button type="submit" disabled={busy}>
        Add the instrument
      </Button>
    </form>
  );
}
