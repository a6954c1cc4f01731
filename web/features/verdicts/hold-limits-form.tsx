'use client';

import type { HoldLimits } from '@dusk-tally/core/verdicts';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { typedNumber } from '@/kit/typed-number';
import { useAct } from '@/kit/use-act';
import { changeHoldLimitsAct } from './hold-actions';
import { NumberInput } from '@/kit/quantity-field';

/** How each limit is written: what it is, its unit, and the factor from what is typed. */
const FIELDS: { key: keyof HoldLimits; words: string; unit: string; per: number }[] = [
  { key: 'understated', words: 'Capacity above', unit: '% of rated', per: 100 },
  { key: 'voltageV', words: 'Voltage outside the model’s by', unit: 'mV', per: 1000 },
  { key: 'countsApart', words: 'Counter and integral apart by', unit: '%', per: 100 },
  { key: 'outOfNothing', words: 'Discharge above', unit: '% of what was put in', per: 100 },
  { key: 'disagrees', words: 'Apart from the cell’s other results by', unit: '%', per: 100 },
  { key: 'disagreesEn', words: 'and with Eₙ above', unit: '', per: 1 },
  { key: 'clocksApart', words: 'Clocks apart by', unit: '%', per: 100 },
];

const shown = (value: number, per: number): string => String(Number((value * per).toPrecision(6)));

/** Limits beyond which a result is held; a lead changes them, and every lot is judged anew. */
export function HoldLimitsForm({ limits, mayLead }: { limits: HoldLimits; mayLead: boolean }) {
  const { run, busy, problem, setProblem } = useAct();
  const [typed, setTyped] = useState<Partial<Record<keyof HoldLimits, string>>>({});
  const [done, setDone] = useState(false);
  const save = () => {
    const next = { ...limits };
    for (const { key, words, per } of FIELDS) {
      const text = typed[key];
      if (text === undefined) continue;
      const value = typedNumber(text);
      if (value === null || Number.isNaN(value))
        return setProblem(`${words}: expected a number; found “${text}”.`);
      next[key] = value / per;
    }
    run(
      () => changeHoldLimitsAct(next),
      () => {
        setTyped({});
        setDone(true);
      },
    );
  };
  return (
    <form
      aria-label="Limits of holds"
      onSubmit={(event) => {
        event.preventDefault();
        save();
      }}
    >
      <div className="grid gap-x-6 gap-y-2 sm:grid-cols-2">
        {FIELDS.map(({ key, words, unit, per }) => (
          <label key={key} className="flex items-center justify-between gap-2">
            <span className="text-quiet">{words}</span>
            <span className="flex items-center gap-1.5">
              <NumberInput
                quantity="plain"
                text={typed[key] ?? shown(limits[key], per)}
                onText={(next) => {
                  setDone(false);
                  setTyped({ ...typed, [key]: next });
                }}
                className="w-20 text-right tabular-nums"
                aria-label={`${words} ${unit}`.trim()}
                disabled={!mayLead || busy}
              />
              <span className="w-36 text-[0.82rem] text-quiet">{unit}</span>
            </span>
          </label>
        ))}
      </div>
      {problem && <Problem>{problem}</Problem>}
      {mayLead && (
        <div className="mt-3 flex items-center gap-3">
          <Button type="submit" disabled={busy || Object.keys(typed).length === 0}>
            {busy ? 'Judging every lot anew …' : 'Change the limits'}
          </Button>
          {done && <span role="status">Changed; every lot was judged anew.</span>}
        </div>
      )}
    </form>
  );
}
