import { combineFew } from '../statistics';
import { type Figure, budgetPart } from '../units';

/** Kept with every capacity typed by hand. */
export const TYPED_CAPACITY_METHOD = { name: 'typed-capacity', version: 1 };
/** Kept with every AC resistance typed by hand. */
export const AC_RESISTANCE_METHOD = { name: 'typed-ac-resistance', version: 4 };
/** Kept with every open-circuit voltage typed by hand. */
export const OCV_METHOD = { name: 'typed-ocv', version: 1 };
/** Kept with every energy read behind an inverter. */
export const INVERTER_ENERGY_METHOD = { name: 'typed-inverter-energy', version: 1 };
/** Kept with every mass typed by hand. */
export const MASS_METHOD = { name: 'typed-mass', version: 1 };
/** Kept with every thickness typed by hand. */
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
  /** Readings of the same thing one after another; `value` is their median. */
  repeats?: readonly number[] | null;
  /** Where the probes of an AC reading were; null where it does not matter. */
  probe?: ProbePlace | null;
}

/** Where probes touch: on the terminal itself, on the bolt, or on the bar. */
export type ProbePlace = 'terminal' | 'bolt' | 'bar';

const PROBE_WORDS: Record<ProbePlace, string> = {
  terminal: 'on the terminals',
  bolt: 'on the bolts',
  bar: 'on the bars',
};

/** Readings further apart than this share of their median, and than three last digits. */
const SPREAD_SHARE = 0.05;

/**
 * Median, the middle one of three. @throws RangeError on none.
 * @example medianOf([4.3, 4.1, 4.2]) // 4.2
 */
export function medianOf(values: readonly number[]): number {
  if (values.length === 0) throw new RangeError('Expected at least one reading.');
  const sorted = [...values].sort((a, b) => a - b);
  const middle = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[middle]! : (sorted[middle - 1]! + sorted[middle]!) / 2;
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
  energyBehindInverter: {
    unit: 'Wh',
    method: INVERTER_ENERGY_METHOD,
    step: 'Energy on the AC side of an inverter, typed in. What the inverter lost is not in it, so the cells gave at least this.',
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

/**
 * Of two to nine normal readings: their mean range over the standard deviation (d₂), and the standard
 * deviation of their median over that of one.
 */
const RANGE_OF = [1.128, 1.693, 2.059, 2.326, 2.534, 2.704, 2.847, 2.97];
const MEDIAN_OF = [0.707, 0.67, 0.546, 0.536, 0.463, 0.459, 0.41, 0.408];
/** Degrees of freedom a range of so many readings is worth. */
const DEGREES_OF = [1, 2, 2.9, 3.8, 4.7, 5.5, 6.3, 7];

/** What the median of so many readings scatters by, from their range; more than nine are taken as nine. */
function scatterOfMedian(count: number, range: number): number {
  const at = Math.min(count, RANGE_OF.length + 1) - 2;
  return (MEDIAN_OF[at]! * range) / RANGE_OF[at]!;
}

/** Contact of the probes from the spread of the readings, and what is worth saying of it. */
function contactOf(unit: string, { repeats, decimals, value }: TypedReading) {
  if (!repeats || repeats.length < 2) return null;
  const range = Math.max(...repeats) - Math.min(...repeats);
  const wide = range > Math.max(SPREAD_SHARE * Math.abs(value), 3 * 10 ** -decimals);
  return {
    range,
    part: {
      ...budgetPart(
        'probeContact',
        scatterOfMedian(repeats.length, range),
        `median of ${repeats.length} readings ${range.toPrecision(2)} ${unit} apart`,
      ),
      degrees: DEGREES_OF[Math.min(repeats.length, DEGREES_OF.length + 1) - 2]!,
    },
    finding: wide
      ? {
          code: 'readings-spread',
          text: `Readings ${repeats.join(', ')} ${unit} are ${((100 * range) / Math.abs(value)).toFixed(0)} % apart: clean the terminals, press the probes and read again.`,
          severity: 'warning' as const,
        }
      : null,
  };
}

/** What a capacity lacks that nobody watched; a hand log of some points shows it (handbook, chapter 2). */
const ONLY_A_NUMBER = {
  code: 'typed-without-points',
  text: 'Only a number: nothing shows that the counter began at zero, that the current was kept, or where the cell’s own voltage stood at its end. None of this is in the uncertainty; points of a hand log would show it.',
  severity: 'note' as const,
};

/** A typed reading as a figure with its budget. */
export function typedFigure(quantity: TypedQuantityName, reading: TypedReading): Figure {
  const { unit, method, step } = SPECS[quantity];
  const root3 = Math.sqrt(3);
  const contact = contactOf(unit, reading);
  const overJoint = reading.probe && reading.probe !== 'terminal';
  const findings = [
    ...(quantity === 'capacity' ? [ONLY_A_NUMBER] : []),
    ...(contact?.finding ? [contact.finding] : []),
    ...(overJoint
      ? [
          {
            code: 'probe-over-joint',
            text: `Probes ${PROBE_WORDS[reading.probe!]}: the joint is in this reading, so the cell has at most this.`,
            severity: 'note' as const,
          },
        ]
      : []),
  ];
  return {
    quantity,
    value: reading.value,
    unit,
    bound: overJoint ? 'atMost' : quantity === 'energyBehindInverter' ? 'atLeast' : 'exact',
    method,
    inputs: [
      { name: 'reading', value: reading.value, unit },
      ...(reading.repeats && reading.repeats.length > 1
        ? [{ name: 'readings', value: reading.repeats.join(', '), unit }]
        : []),
      ...(reading.probe ? [{ name: 'probes', value: PROBE_WORDS[reading.probe] }] : []),
    ],
    steps: [
      step,
      ...(contact
        ? [
            `Median of ${reading.repeats!.length} readings, ${contact.range.toPrecision(2)} ${unit} apart.`,
          ]
        : []),
    ],
    findings,
    ...combineFew([
      budgetPart(
        'gain',
        ((reading.gainPct / 100) * Math.abs(reading.value)) / root3,
        `${reading.gainPct} % of reading, rectangular (${reading.source})`,
      ),
      budgetPart('offset', reading.offset / root3, `${reading.offset} ${unit}, rectangular`),
      budgetPart(
        'resolution',
        10 ** -reading.decimals / 2 / root3,
        `half of the last digit typed, rectangular`,
      ),
      ...(contact ? [contact.part] : []),
    ]),
  };
}
