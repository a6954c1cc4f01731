'use client';

import type { ChannelView } from '@dusk-tally/lab/evidence';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { useAct } from '@/kit/use-act';
import { addChannelAct, changeChannelAct } from './channel-acts';
import { Input, Label, TextArea } from '@/kit/form-parts';
import { DateField } from '@/kit/date-field';
import { typedNumber } from '@/kit/typed-number';

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

/** A channel’s name, dates and comparison with a reference voltmeter. */
export function ChannelForm({
  channel,
  instrumentId,
  done,
}: {
  channel?: ChannelView;
  instrumentId?: number;
  done: () => void;
}) {
  const { run, busy, problem, setProblem } = useAct();
  const [name, setName] = useState(channel?.name ?? '');
  const [calibratedOn, setCalibratedOn] = useState(channel?.calibratedOn ?? '');
  const [dueOn, setDueOn] = useState(channel?.dueOn ?? '');
  const [table, setTable] = useState(
    (channel?.voltageTable ?? []).map((p) => `${p.shown} ${p.reference}`).join('\n'),
  );
  const keep = () => {
    const voltageTable = tableOf(table);
    if (typeof voltageTable === 'string') return setProblem(voltageTable);
    const fields = {
      name,
      calibratedOn: calibratedOn || null,
      dueOn: dueOn || null,
      voltageTable,
    };
    run(async () => {
      if (channel) return changeChannelAct({ ...fields, id: channel.id, version: channel.version });
      const added = await addChannelAct({ ...fields, instrumentId: instrumentId! });
      return added.ok ? { ok: true as const, data: undefined } : added;
    }, done);
  };
  return (
    <form
      className="mt-3 space-y-3 border-t border-rule pt-3"
      onSubmit={(event) => {
        event.preventDefault();
        keep();
      }}
    >
      <div className="grid gap-3 sm:grid-cols-3">
        <Label text="Channel">
          <Input value={name} onChange={(event) => setName(event.target.value)} />
        </Label>
        <Label text="Calibrated on">
          <DateField value={calibratedOn} onValue={(next) => setCalibratedOn(next)} />
        </Label>
        <Label text="Due on">
          <DateField value={dueOn} onValue={(next) => setDueOn(next)} />
        </Label>
      </div>
      <Label text="Voltage check, one point a line: shown, then reference / V">
        <TextArea
          className="min-h-20 tabular-nums"
          placeholder={'2.500 2.5012\n3.300 3.3009'}
          value={table}
          onChange={(event) => setTable(event.target.value)}
        />
      </Label>
      <p className="text-[0.82rem] text-quiet">
        The table counts for runs taken in from now on; earlier ones keep theirs until the lot is
        computed again.
      </p>
      <Button type="submit" disabled={busy}>
        {channel ? 'Keep the calibration' : 'Add the channel'}
      </Button>
      {problem && <Problem>{problem}</Problem>}
    </form>
  );
}
