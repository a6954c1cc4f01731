import { combineBudget, type Figure } from '../units';

export const TYPED_CAPACITY_METHOD = { name: 'typed-capacity', version: 1 };
export const AC_RESISTANCE_METHOD = { name: 'typed-ac-resistance', version: 1 };
export const OCV_METHOD = { name: 'typed-ocv', version: 1 };
export const MASS_METHOD = { name: 'typed-mass', version: 1 };
export const THICKNESS_METHOD = { name: 'typed-thickness', version: 1 };

/** A reading typed off a meter: gain share and resolution make its budget. */
export interface TypedReading {
  value: number;
  /** Accuracy of the meter, % of reading and absolute, as limits. */
  gainPct: number;
  offset: number;
  /** Digits after the point that were typed, in the stored unit. */
  decimals: number;
  source: string;
}

const SPECS = {
  capacity: {
    unit: 'Ah',
    method: TYPED_CAPACITY_METHOD,
    step: 'Capacity as shown by the tester and typed in.',
  },
  acResistance: {
    unit: 'mΩ',
    method: AC_RESISTANCE_METHOD,
    step: 'AC resistance at 1 kHz, four-wire, as shown by the meter and typed in.',
  },
  openCircuitVoltage: {
    unit: 'V',
    method: OCV_METHOD,
    step: 'Open-circuit voltage as shown by the meter and typed in.',
  },
  mass: { unit: 'g', method: MASS_METHOD, step: 'Mass as shown by the scale and typed in.' },
  thickness: {
    unit: 'mm',
    method: THICKNESS_METHOD,
    step: 'Thickness at its thickest place, as read off the caliper and typed in.',
  },
} as const;

/** Quantities that are typed off an instrument. */
export type TypedQuantityName = keyof typeof SPECS;

/** A typed reading as a figure with its budget. */
export function typedFigure(quantity: TypedQuantityName, reading: TypedReading): Figure {
  const { unit, method, step } = SPECS[quantity];
  const root3 = Math.sqrt(3);
  return {
    quantity,
    value: reading.value,
    unit,
    bound: 'exact',
    method,
    inputs: [{ name: 'reading', value: reading.value, unit }],
    steps: [step],
    findings: [],
    ...combineBudget([
      {
        name: 'gain',
        standardUncertainty: ((reading.gainPct / 100) * Math.abs(reading.value)) / root3,
        basis: `${reading.gainPct} % of reading, rectangular (${reading.source})`,
      },
      {
        name: 'offset',
        standardUncertainty: reading.offset / root3,
        basis: `${reading.offset} ${unit}, rectangular`,
      },
      {
        name: 'resolution',
        standardUncertainty: 10 ** -reading.decimals / 2 / root3,
        basis: `half of the last digit typed, rectangular`,
      },
    ]),
  };
}
