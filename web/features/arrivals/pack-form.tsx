'use client';

import { BREAKDOWN_CAUTION } from '@dusk-tally/core/arrivals';
import { parseClearQuantity } from '@dusk-tally/core/units';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { Input, Label } from '@/kit/form-parts';
import { Problem } from '@/kit/page';
import { typedNumber } from '@/kit/typed-number';
import { useAct } from '@/kit/use-act';
import { acknowledgeAct, addPacksAct } from './arrival-acts';

/** What breaking packs down can do to people, read once a day before the first. */
export function PackCaution({ acknowledged }: { acknowledged: boolean }) {
  const { run, busy, problem } = useAct();
  return (
    <div
      className={`rounded-sm border-2 bg-wash p-3 ${acknowledged ? 'border-rule' : 'border-doubt'}`}
    >
      <p>{BREAKDOWN_CAUTION}</p>
      {acknowledged ? (
        <p className="mt-1 text-quiet">You read this today.</p>
      ) : (
        <Button
          className="mt-2 min-h-11"
          disabled={busy}
          onClick={() => run((key) => acknowledgeAct({ kind: 'breakdown' }, key))}
        >
          Read; gloves and glasses are on
        </Button>
      )}
      {problem && <Problem>{problem}</Problem>}
    </div>
  );
}

/** Packs as they came: what their label says. */
export function PackForm({ lotId }: { lotId: number }) {
  const [draft, setDraft] = useState({ count: '1', label: '', voltage: '', ah: '', wh: '' });
  const { run, busy, problem, setProblem } = useAct();
  const set = (patch: Partial<typeof draft>) => setDraft({ ...draft, ...patch });
  const submit = () => {
    const count = typedNumber(draft.count);
    const voltage = parseClearQuantity(draft.voltage, 'voltageV');
    if (!count || !Number.isInteger(count))
      return setProblem(`How many: expected a whole number; found “${draft.count}”.`);
    if (!voltage.ok) return setProblem(`Voltage: ${voltage.message}`);
    const ah = draft.ah.trim() === '' ? null : parseClearQuantity(draft.ah, 'capacityAh');
    if (ah && !ah.ok) return setProblem(`Capacity: ${ah.message}`);
    const wh = typedNumber(draft.wh.replace(/\s*wh$/i, ''));
    if (Number.isNaN(wh))
      return setProblem(`Energy: expected a number in Wh; found “${draft.wh}”.`);
    const clientKey = crypto.randomUUID();
    run(
      (key) =>
        addPacksAct(
          {
            lotId,
            clientKey,
            count,
            label: draft.label,
            voltageV: voltage.value,
            capacityAh: ah ? ah.value : null,
            energyWh: wh,
          },
          key,
        ),
      () => setDraft({ ...draft, count: '1' }),
    );
  };
  const field = (name: keyof typeof draft, words: string, width: string) => (
    <Label text={words} className={width}>
      <Input
        className="min-h-11"
        value={draft[name]}
        onChange={(event) => set({ [name]: event.target.value })}
      />
    </Label>
  );
  return (
    <form
      className="panel flex flex-wrap items-end gap-3 p-4"
      onSubmit={(event) => {
        event.preventDefault();
        submit();
      }}
    >
      {field('count', 'Packs like this', 'w-32')}
      {field('label', 'Words on the label', 'min-w-48 flex-1')}
      {field('voltage', 'Voltage / V', 'w-28')}
      {field('ah', 'Capacity / Ah', 'w-28')}
      {field('wh', 'or energy / Wh', 'w-32')}
      <Button type="submit" className="min-h-11" disabled={busy}>
        Enter the packs
      </Button>
      {problem && <Problem>{problem}</Problem>}
    </form>
  );
}
