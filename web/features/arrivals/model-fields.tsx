'use client';

import {
  CHEMISTRIES,
  CHEMISTRY_PROFILES,
  type Chemistry,
  envelopeOfSizeCode,
} from '@dusk-tally/core/chemistry';
import { typedNumber } from '@/kit/typed-number';
import { Label } from '@/kit/form-parts';

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
    const size = envelopeOfSizeCode(/\b(\d{5})\b/.exec(name)?.[1] ?? '');
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
      <input
        className="field"
        inputMode="decimal"
        value={draft[name]}
        onChange={(event) => set({ [name]: event.target.value })}
      />
    </Label>
  );
  return (
    <>
      <div className="mt-3 grid gap-3 sm:grid-cols-4">
        <Label text="Name of the model">
          <input
            className="field"
            value={draft.name}
            onChange={(event) => rename(event.target.value)}
          />
        </Label>
        <Label text="Chemistry">
          <select
            className="field"
            value={draft.chemistry}
            onChange={(event) => set({ chemistry: event.target.value as Chemistry })}
          >
            {CHEMISTRIES.map((chemistry) => (
              <option key={chemistry} value={chemistry}>
                {CHEMISTRY_PROFILES[chemistry].label}
              </option>
            ))}
          </select>
        </Label>
        <Label text="Format">
          <select
            className="field"
            value={draft.format}
            onChange={(event) => set({ format: event.target.value as ModelDraft['format'] })}
          >
            <option value="cylinder">cylindrical</option>
            <option value="prism">prismatic</option>
            <option value="pouch">pouch</option>
          </select>
        </Label>
        {number('massG', 'Mass / g')}
        {draft.format === 'cylinder'
          ? number('diameterMm', 'Diameter / mm')
          : number('widthMm', 'Width / mm')}
        {draft.format !== 'cylinder' && number('thicknessMm', 'Thickness / mm')}
        {number('heightMm', 'Height / mm')}
      </div>
      <details className="mt-4">
        <summary className="cursor-pointer font-medium">What the data sheet says</summary>
        <p className="mt-1 text-quiet">
          Where the claim leaves something open, these values stand in, and are shown as such.
        </p>
        <div className="mt-2 grid gap-3 sm:grid-cols-4">
          {DATA_SHEET.map(([name, text]) => number(name, text))}
          <Label text="Terminals">
            <select
              className="field"
              value={draft.terminalType}
              onChange={(event) =>
                set({ terminalType: event.target.value as ModelDraft['terminalType'] })
              }
            >
              <option value="">not said</option>
              {Object.entries(TERMINAL_WORDS).map(([type, words]) => (
                <option key={type} value={type}>
                  {words}
                </option>
              ))}
            </select>
          </Label>
        </div>
      </details>
    </>
  );
}
