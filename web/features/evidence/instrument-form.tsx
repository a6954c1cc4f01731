'use client';

import { useEffect } from 'react';
import { useWatch } from 'react-hook-form';
import { Option } from '@/kit/choice';
import { ChoiceField, DayField, TextField } from '@/kit/form/fields';
import { Form } from '@/kit/form/form';
import { useLabForm } from '@/kit/form/use-lab-form';
import {
  AccuracyFields,
  blankAccuracy,
  INSTRUMENT_KINDS,
  type InstrumentKind,
} from './accuracy-fields';
import { addInstrumentAct } from './acts';

const EMPTY = {
  kind: 'tester' as const,
  name: '',
  serial: '',
  calibratedOn: null,
  dueOn: null,
  accuracy: {
    currentGainPct: 0,
    currentOffsetA: 0,
    voltageGainPct: 0,
    voltageOffsetV: 0,
    timePpm: 0,
  },
};

/** An instrument with the accuracy its data sheet or calibration states. */
export function InstrumentForm() {
  const form = useLabForm({
    schema: 'instrumentInput',
    first: EMPTY as Parameters<typeof addInstrumentAct>[0],
    act: addInstrumentAct,
    done: () => form.forget(),
  });
  const { control, setValue, getValues } = form.form;
  const kind = useWatch({ control, name: 'kind' }) as InstrumentKind;
  useEffect(() => {
    // Another kind has other fields.
    const isTester = 'currentGainPct' in getValues('accuracy');
    if (isTester !== (kind === 'tester')) setValue('accuracy', blankAccuracy(kind));
  }, [kind, getValues, setValue]);
  return (
    <Form
      of={form}
      label="A new instrument"
      act="Add the instrument"
      look="plain"
      className="mt-4 space-y-3 border-t border-rule pt-4"
    >
      <div className="grid gap-3 sm:grid-cols-4">
        <ChoiceField name="kind" label="Kind">
          {Object.entries(INSTRUMENT_KINDS).map(([own, words]) => (
            <Option key={own} value={own}>
              {words}
            </Option>
          ))}
        </ChoiceField>
        <TextField name="name" label="Name" />
        <TextField name="serial" label="Serial" />
        <AccuracyFields key={kind} kind={kind} />
        <DayField name="calibratedOn" label="Calibrated on" />
        <DayField name="dueOn" label="Due on" />
      </div>
    </Form>
  );
}
