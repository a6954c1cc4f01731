'use client';

import { useState } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { completeModelAct } from './arrival-acts';
import { typedNumber } from '@/kit/typed-number';
import { TERMINAL_WORDS } from './model-fields';
import { torqueWords } from './torque-words';
import { useAct } from '@/kit/use-act';
import { Label } from '@/kit/form-parts';
import { Choice, Option } from '@/kit/choice';
import { NumberInput, quantityOfHead } from '@/kit/quantity-field';

const NUMBERS = [
  ['massG', 'Mass / g'],
  ['massTolerancePct', 'Mass, within ± %'],
  ['sizeTolerancePct', 'Size, within ± %'],
  ['thicknessMm', 'Thickness as drawn / mm'],
  ['acResistanceMohm', 'AC resistance, highest / mΩ'],
  ['dcResistanceMohm', 'DC resistance, highest / mΩ'],
  ['maxChargeA', 'Charge current, highest / A'],
  ['maxDischargeA', 'Discharge current, highest / A'],
  ['taperIt', 'Charge ends at / It'],
  ['restMinutes', 'Rest after charge / min'],
  ['terminalTorqueNm', 'Terminal torque / N·m'],
] as const;
type NumberName = (typeof NUMBERS)[number][0];
type TerminalType = keyof typeof TERMINAL_WORDS;

export interface SheetRow extends Record<NumberName, number | null> {
  id: number;
  version: number;
  name: string;
  chemistry: string;
  format: 'cylinder' | 'prism' | 'pouch';
  ratedAh: number | null;
  terminalType: TerminalType | null;
}

/** A cell model’s data sheet, to be completed as it becomes known. */
export function ModelSheet({ model, mayChange }: { model: SheetRow; mayChange: boolean }) {
  const [open, setOpen] = useState(false);
  const [draft, setDraft] = useState(
    () =>
      Object.fromEntries(
        NUMBERS.map(([name]) => [name, model[name] === null ? '' : String(model[name])]),
      ) as Record<NumberName, string>,
  );
  const [terminal, setTerminal] = useState<TerminalType | ''>(model.terminalType ?? '');
  const { run, busy, problem, setProblem } = useAct();
  const shown = NUMBERS.filter(([name]) => name !== 'thicknessMm' || model.format !== 'cylinder');
  const save = () => {
    const numbers: Partial<Record<NumberName, number | null>> = {};
    for (const [name, words] of shown) {
      const value = typedNumber(draft[name]);
      if (Number.isNaN(value))
        return setProblem(`${words}: expected a number; found “${draft[name]}”.`);
      numbers[name] = value;
    }
    run(
      () =>
        completeModelAct({
          id: model.id,
          version: model.version,
          sheet: { ...numbers, terminalType: terminal || null },
        }),
      () => setOpen(false),
    );
  };
  return (
    <section className="panel p-4" aria-label={model.name}>
      <div className="flex flex-wrap items-baseline justify-between gap-3">
        <h2 className="font-semibold">
          {model.name}{' '}
          <span className="font-normal text-quiet">
            {model.chemistry},{' '}
            {{ cylinder: 'cylindrical', prism: 'prismatic', pouch: 'pouch' }[model.format]}
            {model.ratedAh !== null && `, ${model.ratedAh} Ah`}
          </span>
        </h2>
        {mayChange && (
          <Button look="bare" onClick={() => setOpen(!open)}>
            {open ? 'Leave it' : 'Complete the data sheet …'}
          </Button>
        )}
      </div>
      <p className="text-quiet">{torqueWords(model)}</p>
      {open ? (
        <form
          className="mt-2 space-y-3"
          onSubmit={(event) => {
            event.preventDefault();
            save();
          }}
        >
          <div className="grid gap-3 sm:grid-cols-4">
            {shown.map(([name, words]) => (
              <Label key={name} text={words}>
                <NumberInput
                  quantity={quantityOfHead(words)}
                  text={draft[name]}
                  onText={(next) => setDraft({ ...draft, [name]: next })}
                />
              </Label>
            ))}
            <Label text="Terminals">
              <Choice value={terminal} onValue={(next) => setTerminal(next as TerminalType | '')}>
                <Option value="">not said</Option>
                {Object.entries(TERMINAL_WORDS).map(([type, words]) => (
                  <Option key={type} value={type}>
                    {words}
                  </Option>
                ))}
              </Choice>
            </Label>
          </div>
          <Button type="submit" disabled={busy}>
            Keep the data sheet
          </Button>
        </form>
      ) : (
        <dl className="mt-1 flex flex-wrap gap-x-6 gap-y-1 tabular-nums">
          {shown
            .filter(([name]) => model[name] !== null)
            .map(([name, words]) => (
              <div key={name} className="flex gap-1.5">
                <dt className="text-quiet">{words}</dt>
                <dd>{model[name]}</dd>
              </div>
            ))}
        </dl>
      )}
      {problem && <Problem>{problem}</Problem>}
    </section>
  );
}
