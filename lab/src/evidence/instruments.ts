import type { Accuracy } from '@dusk-tally/core/evidence';
import type { InstrumentKind, InstrumentRow, ReadingKind } from '@dusk-tally/store';
import { z } from 'zod';
import { isDuplicate, LabError, procedure, question } from '../shared';

const share = z.number().min(0, 'Expected 0 or more.').max(50);
const size = z.number().min(0, 'Expected 0 or more.').finite();
const day = z.iso
  .date('Expected a date.')
  .nullish()
  .transform((value) => value ?? null);

const common = {
  name: z.string().trim().min(1, 'Expected a name.').max(120),
  serial: z
    .string()
    .trim()
    .max(60)
    .nullish()
    .transform((value) => value || null),
  calibratedOn: day,
  dueOn: day,
};

export const instrumentInput = z.discriminatedUnion('kind', [
  z.object({
    ...common,
    kind: z.literal('tester'),
    accuracy: z.object({
      currentGainPct: share,
      currentOffsetA: size,
      voltageGainPct: share,
      voltageOffsetV: size,
      timePpm: size,
    }),
  }),
  z.object({
    ...common,
    kind: z.enum(['acMeter', 'voltmeter', 'scale', 'caliper']),
    accuracy: z.object({ gainPct: share, offset: size }),
  }),
]);

/** Adds an instrument with what its data sheet or calibration states. */
export const addInstrument = procedure({
  role: 'lead',
  input: instrumentInput,
  run: async ({ lab, input, transaction, audit }): Promise<InstrumentRow> => {
    try {
      const source = `stated for ${input.name}`;
      const row = await lab.store.instruments.insert(
        { ...input, accuracy: { ...input.accuracy, source } },
        transaction,
      );
      if (row.kind === 'tester')
        await lab.store.meters.channels.insert(
          {
            instrumentId: row.id,
            name: '1',
            calibratedOn: row.calibratedOn,
            dueOn: row.dueOn,
            voltageTable: [],
          },
          transaction,
        );
      await audit({
        act: 'added instrument',
        subjectType: 'instrument',
        subjectId: row.id,
        after: input,
      });
      return row;
    } catch (error) {
      if (isDuplicate(error))
        throw new LabError('duplicate', `An instrument named ${input.name} is here already.`, {
          field: 'name',
        });
      throw error;
    }
  },
});

export const listInstruments = question({
  role: 'technician',
  input: z.object({}),
  run: (lab) => lab.store.instruments.find({}, { order: [['name', 'ASC']] }),
});

/** The accuracy of a tester; null for "not described". */
export function testerAccuracy(instrument: InstrumentRow | null): Accuracy | null {
  return instrument?.kind === 'tester' ? (instrument.accuracy as Accuracy) : null;
}

/** Which kind of instrument reads what. */
export const METER_OF: Record<ReadingKind, InstrumentKind> = {
  acResistance: 'acMeter',
  openCircuitVoltage: 'voltmeter',
  capacity: 'tester',
  mass: 'scale',
  thickness: 'caliper',
  energyBehindInverter: 'tester',
  energyShown: 'tester',
  currentShown: 'tester',
  durationShown: 'tester',
};

/** Gain in % and offset in the reading's unit of a meter nobody described (house defaults). */
const UNDESCRIBED: Record<ReadingKind, readonly [number, number]> = {
  acResistance: [2, 0],
  openCircuitVoltage: [0.1, 0],
  capacity: [1, 0],
  mass: [0, 1],
  thickness: [0, 0.05],
  energyBehindInverter: [2, 0],
  energyShown: [1, 0],
  currentShown: [1, 0],
  durationShown: [0.1, 0],
};

/** Gain and offset of a meter for typed readings; the house default where none is named. */
export function meterAccuracy(
  instrument: InstrumentRow | null,
  kind: ReadingKind,
): { gainPct: number; offset: number; source: string } {
  if (instrument && instrument.kind === METER_OF[kind] && instrument.kind !== 'tester')
    return instrument.accuracy as { gainPct: number; offset: number; source: string };
  if (instrument && kind === 'capacity') {
    const { currentGainPct, source } = instrument.accuracy as Accuracy;
    return { gainPct: currentGainPct, offset: 0, source };
  }
  const [gainPct, offset] = UNDESCRIBED[kind];
  return { gainPct, offset, source: 'house default for a meter not described' };
}
