'use client';

import type { HistoryEntry } from '@dusk-tally/lab';
import { modelChange } from '@dusk-tally/lab/inputs';
import { useMemo, useState } from 'react';
import { z } from 'zod';
import { Button } from '@/kit/button';
import { Option } from '@/kit/choice';
import { ChoiceField, NumberField, TextField } from '@/kit/form/fields';
import { Form } from '@/kit/form/form';
import { useLabForm } from '@/kit/form/use-lab-form';
import { History } from '@/kit/history';
import { quantityOfHead } from '@/kit/quantity-field';
import { completeModelAct } from './arrival-acts';
import { TERMINAL_WORDS } from './model-fields';
import { torqueWords } from './torque-words';

const NUMBERS = [
  ['ratedAh', 'Rated capacity / Ah'],
  ['rateIt', 'At a rate of / It'],
  ['cutoffV', 'Down to / V'],
  ['chargeV', 'Charged to / V'],
  ['temperatureC', 'At / °C'],
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
  ['clampForceN', 'Clamping force in the test / N'],
] as const;
type NumberName = (typeof NUMBERS)[number][0];
type TerminalType = keyof typeof TERMINAL_WORDS;

export interface SheetRow extends Record<NumberName, number | null> {
  id: number;
  version: number;
  name: string;
  chemistry: string;
  format: 'cylinder' | 'prism' | 'pouch';
  terminalType: TerminalType | null;
}

const { reason: reasonShape, id: idShape, version: versionShape } = modelChange.shape;
/** The change in one storey, so that each field has its own name. */
const flat = modelChange.shape.sheet.extend({
  id: idShape,
  version: versionShape,
  reason: reasonShape,
});

function SheetForm({ model, lots, done }: { model: SheetRow; lots: number; done: () => void }) {
  const shown = numbersOf(model);
  const first = useMemo(
    () =>
      ({
        id: model.id,
        version: model.version,
        reason: '',
        name: model.name,
        terminalType: model.terminalType,
        ...Object.fromEntries(numbersOf(model).map(([name]) => [name, model[name]])),
      }) as z.input<typeof flat>,
    [model],
  );
  const form = useLabForm({
    schema: flat,
    first,
    act: async ({ id, version, reason, ...sheet }, key) => {
      const outcome = await completeModelAct({ id, version, reason, sheet }, key);
      return outcome.ok ? outcome : { ...outcome, field: outcome.field?.replace(/^sheet\./, '') };
    },
    done,
    keepAs: `model ${model.id}`,
  });
  return (
    <Form
      of={form}
      act="Keep the data sheet"
      look="plain"
      names={{ name: 'Name', terminalType: 'Terminals', ...Object.fromEntries(NUMBERS) }}
      className="mt-2 space-y-3"
    >
      <div className="grid gap-3 sm:grid-cols-4">
        <TextField name="name" label="Name of the model" />
        {shown.map(([name, words]) => (
          <NumberField key={name} name={name} quantity={quantityOfHead(words)} label={words} />
        ))}
        <ChoiceField name="terminalType" label="Terminals">
          <Option value="">not said</Option>
          {Object.entries(TERMINAL_WORDS).map(([type, words]) => (
            <Option key={type} value={type}>
              {words}
            </Option>
          ))}
        </ChoiceField>
        <TextField name="reason" label="Why, or where it is from" className="sm:col-span-2" />
      </div>
      <p role="status" className="rounded-sm bg-wash p-2 text-[0.9rem]">
        {lots === 0
          ? 'No lot is of this model yet.'
          : `${lots} ${lots === 1 ? 'lot is' : 'lots are'} of this model: where a claim leaves something open that changes here, cells are judged anew, and capacities are computed again to another cut-off. Issued reports do not change.`}
      </p>
    </Form>
  );
}

const numbersOf = ({ format }: Pick<SheetRow, 'format'>) =>
  NUMBERS.filter(([name]) => name !== 'thicknessMm' || format !== 'cylinder');

/** A cell model’s data sheet, to be completed as it becomes known. */
export function ModelSheet({
  model,
  lots,
  mayChange,
  history,
}: {
  model: SheetRow;
  /** How many lots are of it. */
  lots: number;
  mayChange: boolean;
  history: readonly HistoryEntry[];
}) {
  const [open, setOpen] = useState(false);
  return (
    <section className="panel p-4" aria-label={model.name}>
      <div className="flex flex-wrap items-baseline justify-between gap-3">
        <h2 className="font-semibold">
          {model.name}{' '}
          <span className="font-normal text-quiet">
            {model.chemistry},{' '}
            {{ cylinder: 'cylindrical', prism: 'prismatic', pouch: 'pouch' }[model.format]}
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
        <SheetForm model={model} lots={lots} done={() => setOpen(false)} />
      ) : (
        <dl className="mt-1 flex flex-wrap gap-x-6 gap-y-1 tabular-nums">
          {numbersOf(model)
            .filter(([name]) => model[name] !== null)
            .map(([name, words]) => (
              <div key={name} className="flex gap-1.5">
                <dt className="text-quiet">{words}</dt>
                <dd>{model[name]}</dd>
              </div>
            ))}
        </dl>
      )}
      <History entries={history} />
    </section>
  );
}
