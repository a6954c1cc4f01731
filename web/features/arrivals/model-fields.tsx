'use client';

import {
  CHEMISTRIES,
  CHEMISTRY_PROFILES,
  type Chemistry,
  envelopeOfSizeCode,
} from '@dusk-tally/core/chemistry';
import { typedNumber } from '@/kit/typed-number';
import { Input, Label } from '@/kit/form-parts';
import { Choice, Option } from '@/kit/choice';
import { Fold } from '@/kit/fold';
import { NumberInput, quantityOfHead } from '@/kit/quantity-field';

/** Numbers a data sheet gives. */
export const MODEL_NUMBERS = [
  'diameterMm',
  'widthMm',
  'thicknessMm',
  'heightMm',
  'massG',
  'ratedAh',
  'rateIt',
  'cutoffV',
  'chargeV',
  'temperatureC',
  'acResistanceMohm',
  'maxChargeA',
  'maxDischargeA',
  'dcResistanceMohm',
  'taperIt',
  'restMinutes',
  'massTolerancePct',
  'sizeTolerancePct',
  'terminalTorqueNm',
  'clampForceN',
] as const;
type ModelNumber = (typeof MODEL_NUMBERS)[number];

/** A model as typed, before it is checked. */
export type ModelDraft = Record<ModelNumber, string> & {
  name: string;
  chemistry: Chemistry;
  format: 'cylinder' | 'prism' | 'pouch';
  terminalType: TerminalType | '';
};

type TerminalType = keyof typeof TERMINAL_WORDS;

/** Words for a terminal; its torque is asked from the data sheet, never guessed. */
export const TERMINAL_WORDS = {
  threadedHole: 'threaded hole',
  weldedStud: 'welded stud',
  tab: 'tab',
  flat: 'flat, for welding or holders',
} as const;

const BLANK = Object.fromEntries(MODEL_NUMBERS.map((name) => [name, ''])) as Record<
  ModelNumber,
  string
>;
export const NEW_MODEL: ModelDraft = {
  ...BLANK,
  name: '',
  chemistry: 'LFP',
  format: 'prism',
  terminalType: '',
};

/** The numbers of a draft: null where blank, NaN where none. */
export function modelNumbers(draft: ModelDraft): Record<ModelNumber, number | null> {
  return Object.fromEntries(
    MODEL_NUMBERS.map((name) => [name, typedNumber(draft[name])]),
  ) as Record<ModelNumber, number | null>;
}

const DATA_SHEET: [ModelNumber, string][] = [
  ['ratedAh', 'Rated capacity / Ah'],
  ['rateIt', 'at a rate of, data sheet / It'],
  ['cutoffV', 'Cut-off / V'],
  ['chargeV', 'Charge voltage / V'],
  ['taperIt', 'Charge ends at / It'],
  ['restMinutes', 'Rest after charge / min'],
  ['temperatureC', 'Test temperature / °C'],
  ['acResistanceMohm', 'AC resistance, highest / mΩ'],
  ['dcResistanceMohm', 'DC resistance, highest / mΩ'],
  ['maxChargeA', 'Charge current, highest / A'],
  ['maxDischargeA', 'Discharge current, highest / A'],
  ['massTolerancePct', 'Mass, within ± %'],
  ['sizeTolerancePct', 'Size, within ± %'],
  ['terminalTorqueNm', 'Terminal torque / N·m'],
  ['clampForceN', 'Clamping force in the test / N'],
];

/** A new cell model: what it is, its size, and what its data sheet says. */
export function ModelFields({
  draft,
  onChange,
}: {
  draft: ModelDraft;
  onChange: (draft: ModelDraft) => void;
}) {
  const set = (patch: Partial<ModelDraft>) => onChange({ ...draft, ...patch });
  const rename = (name: string) => {
    const size = envelopeOfSizeCode(/\b[A-Za-z]{0,4}(\d{5})\b/.exec(name)?.[1] ?? '');
    const isNew = size?.shape === 'cylinder' && !draft.diameterMm;
    set({
      name,
      ...(isNew && {
        format: 'cylinder',
        diameterMm: String(size.diameterMm),
        heightMm: String(size.heightMm),
      }),
    });
  };
  const number = (name: ModelNumber, text: string) => (
    <Label key={name} text={text}>
      <NumberInput
        quantity={quantityOfHead(text)}
        text={draft[name]}
        onText={(next) => set({ [name]: next })}
      />
    </Label>
  );
  return (
    <>
      <div className="mt-3 grid gap-3 sm:grid-cols-4">
        <Label text="Name of the model">
          <Input value={draft.name} onChange={(event) => rename(event.target.value)} />
        </Label>
        <Label text="Chemistry">
          <Choice value={draft.chemistry} onValue={(next) => set({ chemistry: next as Chemistry })}>
            {CHEMISTRIES.map((chemistry) => (
              <Option key={chemistry} value={chemistry}>
                {CHEMISTRY_PROFILES[chemistry].label}
              </Option>
            ))}
          </Choice>
        </Label>
        <Label text="Format">
          <Choice
            value={draft.format}
            onValue={(next) => set({ format: next as ModelDraft['format'] })}
          >
            <Option value="cylinder">cylindrical</Option>
            <Option value="prism">prismatic</Option>
            <Option value="pouch">pouch</Option>
          </Choice>
        </Label>
        {number('massG', 'Mass / g')}
        {draft.format === 'cylinder'
          ? number('diameterMm', 'Diameter / mm')
          : number('widthMm', 'Width / mm')}
        {draft.format !== 'cylinder' && number('thicknessMm', 'Thickness / mm')}
        {number('heightMm', 'Height / mm')}
      </div>
      <Fold className="mt-4" title="What the data sheet says">
        <p className="mt-1 text-quiet">
          Where the claim leaves something open, these values stand in, and are shown as such.
        </p>
        <div className="mt-2 grid gap-3 sm:grid-cols-4">
          {DATA_SHEET.map(([name, text]) => number(name, text))}
          <Label text="Terminals">
            <Choice
              value={draft.terminalType}
              onValue={(next) => set({ terminalType: next as ModelDraft['terminalType'] })}
            >
              <Option value="">not said</Option>
              {Object.entries(TERMINAL_WORDS).map(([type, words]) => (
                <Option key={type} value={type}>
                  {words}
                </Option>
              ))}
            </Choice>
          </Label>
        </div>
      </Fold>
    </>
  );
}
