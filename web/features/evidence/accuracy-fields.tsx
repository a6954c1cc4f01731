'use client';

import { NumberField } from '@/kit/form/fields';

/** Kinds of instrument. */
export const INSTRUMENT_KINDS = {
  tester: 'Tester that logs current',
  acMeter: 'AC resistance meter',
  voltmeter: 'Voltmeter',
  scale: 'Scale',
  caliper: 'Caliper',
} as const;
export type InstrumentKind = keyof typeof INSTRUMENT_KINDS;

/** Unit an offset is shown in, and what of it is kept. */
const OFFSETS = {
  acMeter: { unit: 'mΩ', scale: 1 },
  voltmeter: { unit: 'mV', scale: 1e-3 },
  scale: { unit: 'g', scale: 1 },
  caliper: { unit: 'mm', scale: 1 },
} as const;

/** An accuracy nobody has said yet, of a kind of instrument. */
export const blankAccuracy = (kind: InstrumentKind) =>
  kind === 'tester'
    ? { currentGainPct: 0, currentOffsetA: 0, voltageGainPct: 0, voltageOffsetV: 0, timePpm: 0 }
    : { gainPct: 0, offset: 0 };

/** What a data sheet or a calibration says an instrument may be off by. */
export function AccuracyFields({ kind }: { kind: InstrumentKind }) {
  if (kind !== 'tester')
    return (
      <>
        <NumberField name="accuracy.gainPct" quantity="plain" blank={0} label="± % of reading" />
        <NumberField
          name="accuracy.offset"
          quantity="plain"
          blank={0}
          scale={OFFSETS[kind].scale}
          label={`± ${OFFSETS[kind].unit}`}
        />
      </>
    );
  return (
    <>
      <NumberField
        name="accuracy.currentGainPct"
        quantity="plain"
        blank={0}
        label="Current, ± % of reading"
      />
      <NumberField
        name="accuracy.currentOffsetA"
        quantity="plain"
        blank={0}
        scale={1e-3}
        label="Current, ± mA"
      />
      <NumberField
        name="accuracy.voltageGainPct"
        quantity="plain"
        blank={0}
        label="Voltage, ± % of reading"
      />
      <NumberField
        name="accuracy.voltageOffsetV"
        quantity="plain"
        blank={0}
        scale={1e-3}
        label="Voltage, ± mV"
      />
      <NumberField name="accuracy.timePpm" quantity="plain" blank={0} label="Clock, ± ppm" />
    </>
  );
}
