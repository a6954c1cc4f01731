'use client';

import type { ChannelView } from '@dusk-tally/lab/evidence';
import { channelChange, channelInput } from '@dusk-tally/lab/inputs';
import { useMemo } from 'react';
import { z } from 'zod';
import { DayField, LinesField, TextField } from '@/kit/form/fields';
import { Form } from '@/kit/form/form';
import { useLabForm } from '@/kit/form/use-lab-form';
import { typedNumber } from '@/kit/typed-number';
import { HoldsFrom } from '../holds-from';
import { type HeldPeriod, WhatHeld } from '../what-held';
import { addChannelAct, changeChannelAct } from './channel-acts';

/** `2.0 2.001` per line: what the channel showed, what the reference said. */
function tableOf(text: string): { shown: number; reference: number }[] | string {
  const points: { shown: number; reference: number }[] = [];
  for (const [i, line] of text.split('\n').entries()) {
    if (line.trim() === '') continue;
    const numbers = line
      .trim()
      .split(/[\s;]+/)
      .map((part) => typedNumber(part) ?? NaN);
    if (numbers.length !== 2 || numbers.some(Number.isNaN))
      return `Line ${i + 1}: expected two voltages, shown and reference; found “${line.trim()}”.`;
    points.push({ shown: numbers[0]!, reference: numbers[1]! });
  }
  return points;
}

const table = z.string().superRefine((text, context) => {
  const points = tableOf(text);
  if (typeof points === 'string') context.addIssue({ code: 'custom', message: points });
});
const added = channelInput.omit({ voltageTable: true }).extend({ table });
const changed = channelChange.omit({ voltageTable: true }).extend({ table });
/** The other way about. */
const textOf = (points: readonly { shown: number; reference: number }[]): string =>
  points.map(({ shown, reference }) => `${shown} ${reference}`).join('\n');
const pointsOf = (text: string) => tableOf(text) as { shown: number; reference: number }[];

function Fields() {
  return (
    <>
      <div className="grid gap-3 sm:grid-cols-3">
        <TextField name="name" label="Channel" />
        <DayField name="calibratedOn" label="Calibrated on" />
        <DayField name="dueOn" label="Due on" />
      </div>
      <LinesField
        name="table"
        label="Voltage check, one point a line: shown, then reference / V"
        rows={4}
      />
    </>
  );
}

/** Adds a channel to a tester. */
export function AddChannelForm({ instrumentId, done }: { instrumentId: number; done: () => void }) {
  const form = useLabForm({
    schema: added,
    first: { instrumentId, name: '', calibratedOn: null, dueOn: null, table: '' },
    act: ({ table: text, ...rest }, key) =>
      addChannelAct({ ...rest, voltageTable: pointsOf(text) }, key),
    done,
  });
  return (
    <Form of={form} look="plain" act="Add the channel" className="mt-3 space-y-3">
      <Fields />
    </Form>
  );
}

/** A channel’s name, dates and comparison with a reference voltmeter, from a day on. */
export function ChannelForm({ channel, done }: { channel: ChannelView; done: () => void }) {
  const { id, version, name, calibratedOn, dueOn, voltageTable } = channel;
  const first = useMemo(
    () => ({
      id,
      version,
      name,
      calibratedOn,
      dueOn,
      table: textOf(voltageTable),
      holdsFrom: null,
      reason: '',
    }),
    [id, version, name, calibratedOn, dueOn, voltageTable],
  );
  const form = useLabForm({
    schema: changed,
    first,
    act: ({ table: text, ...rest }, key) =>
      changeChannelAct({ ...rest, voltageTable: pointsOf(text) }, key),
    done,
  });
  const { form: fields } = form;
  const mend = ({ holdsFrom, data }: HeldPeriod) =>
    fields.reset(
      {
        ...fields.getValues(),
        calibratedOn: data.calibratedOn,
        dueOn: data.dueOn,
        table: textOf(data.voltageTable ?? []),
        holdsFrom,
      },
      { keepDefaultValues: true },
    );
  return (
    <Form
      of={form}
      look="plain"
      act="Keep the calibration"
      names={{ name: 'Channel', calibratedOn: 'Calibrated on', dueOn: 'Due on' }}
      className="mt-2 space-y-3"
    >
      <Fields />
      <HoldsFrom instrumentId={channel.instrumentId} channelId={id} />
      <WhatHeld instrumentId={channel.instrumentId} channelId={id} mend={mend} />
      <TextField name="reason" label="Why" />
    </Form>
  );
}
