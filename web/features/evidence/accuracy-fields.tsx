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

/** What an offset is, and the unit it is shown in. */
const OFFSETS = {
  acMeter: { quantity: 'resistanceMohm', unit: 'mΩ', shownIn: undefined },
  voltmeter: { quantity: 'voltageV', unit: 'mV', shownIn: { unit: 'mV', scale: 1e-3 } },
  scale: { quantity: 'massG', unit: 'g', shownIn: undefined },
  caliper: { quantity: 'lengthMm', unit: 'mm', shownIn: undefined },
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
          quantity={OFFSETS[kind].quantity}
          blank={0}
          shownIn={OFFSETS[kind].shownIn}
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
        quantity="currentA"
        blank={0}
        shownIn={{ unit: 'mA', scale: 1e-3 }}
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
        quantity="voltageV"
        blank={0}
        shownIn={{ unit: 'mV', scale: 1e-3 }}
        label="Voltage, ± mV"
      />
      <NumberField name="accuracy.timePpm" quantity="plain" blank={0} label="Clock, ± ppm" />
    </>
  );
}
