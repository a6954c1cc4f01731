import type { Accuracy } from '@dusk-tally/core/evidence';
import { dayIn } from '@dusk-tally/core/units';
import type { InstrumentKind, InstrumentRow, MeterPeriodRow, ReadingKind } from '@dusk-tally/store';
import { z } from 'zod';
import { dayInput, instrumentChange, instrumentInput } from '../inputs';
import { labDay, labTimeZone } from '../lots';
import { found, isDuplicate, type Lab, LabError, procedure, question } from '../shared';
import { FIRST_DAY, keepPeriod, metersThen } from './meter-periods';

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

/** A day from which something is to hold: today where it is open, never one to come. */
export async function holdsFromOf(lab: Lab, holdsFrom: string | null) {
  const today = await labDay(lab);
  const day = holdsFrom ?? today;
  if (day > today || day < FIRST_DAY)
    throw new LabError('invalid', `Expected a day from ${FIRST_DAY} to today.`, {
      field: 'holdsFrom',
    });
  return { today, holdsFrom: day };
}

/** Changes what holds of an instrument from a day on: renewed calibration, or a mistake mended. */
export const changeInstrument = procedure({
  role: 'lead',
  input: instrumentChange,
  run: async ({ lab, actor, input, transaction, audit, changed }): Promise<void> => {
    const { id, version, name, serial, accuracy, calibratedOn, dueOn, reason } = input;
    const { instruments } = lab.store;
    const before = found(
      await instruments.one({ id }, { transaction, forUpdate: true }),
      'That instrument',
    );
    if (before.version !== version)
      throw new LabError(
        'conflict',
        'Somebody changed this instrument meanwhile. Nothing was stored; choose between theirs and yours.',
        { current: before },
      );
    if ((before.kind === 'tester') !== 'currentGainPct' in accuracy)
      throw new LabError('invalid', `Expected the accuracy of a ${before.kind}.`, {
        field: 'accuracy',
      });
    const { holdsFrom, today } = await holdsFromOf(lab, input.holdsFrom);
    const data = {
      accuracy: { ...accuracy, source: `stated for ${name}` },
      calibratedOn,
      dueOn,
    };
    const now = await keepPeriod(
      lab,
      {
        instrumentId: id,
        channelId: null,
        before: {
          accuracy: before.accuracy,
          calibratedOn: before.calibratedOn,
          dueOn: before.dueOn,
        },
      },
      { holdsFrom, data, reason, today },
      actor,
      transaction,
    );
    await instruments
      .update({ name, serial, ...now, version: version + 1 }, { id }, transaction)
      .catch((error: unknown) => {
        if (isDuplicate(error))
          throw new LabError('duplicate', `An instrument named ${name} is here already.`, {
            field: 'name',
          });
        throw error;
      });
    changed({ what: 'channelCalibration', instrumentId: id });
    await audit({
      act: 'changed instrument',
      subjectType: 'instrument',
      subjectId: id,
      before: {
        name: before.name,
        serial: before.serial,
        accuracy: before.accuracy,
        calibratedOn: before.calibratedOn,
        dueOn: before.dueOn,
      },
      after: { name, serial, ...data, holdsFrom, reason },
    });
  },
});

/** How much a change of a meter would compute again, and how much of earlier days keeps what held. */
export interface MeterPreview {
  runs: number;
  readings: number;
  lots: number;
  earlier: number;
}

/** What a change of a meter from a day on would do, before it is made. */
export const previewMeterChange = question({
  role: 'lead',
  input: z.object({
    instrumentId: z.int(),
    /** A channel of it; null for the instrument itself. */
    channelId: z.int().nullable(),
    holdsFrom: dayInput,
  }),
  run: async (lab, { instrumentId, channelId, holdsFrom }): Promise<MeterPreview> => {
    const [meters, runs, typed, timeZone] = await Promise.all([
      metersThen(lab),
      lab.store.runs.find(channelId === null ? { instrumentId } : { channelId }, {
        columns: ['lotId', 'startedAt', 'createdAt'],
      }),
      channelId === null
        ? lab.store.readings.find({ instrumentId }, { columns: ['lotId', 'at'] })
        : [],
      labTimeZone(lab),
    ]);
    // A later period of its own ends this one.
    const periods = await lab.store.meters.periods.find({ instrumentId, channelId });
    const end = periods
      .map((period) => period.holdsFrom)
      .filter((day) => day > holdsFrom)
      .sort()[0];
    const isTouched = ({ day }: { day: string }) => day >= holdsFrom && (!end || day < end);
    const ofRuns = runs.map((run) => ({ lotId: run.lotId, day: meters.dayOf(run) }));
    const ofReadings = typed.map(({ lotId, at }) => ({ lotId, day: dayIn(timeZone, at) }));
    const all = [...ofRuns, ...ofReadings];
    return {
      runs: ofRuns.filter(isTouched).length,
      readings: ofReadings.filter(isTouched).length,
      lots: new Set(all.filter(isTouched).map(({ lotId }) => lotId)).size,
      earlier: all.filter(({ day }) => day < holdsFrom).length,
    };
  },
});

/** What held of an instrument or a channel, and since when, the newest first. */
export const meterHistory = question({
  role: 'technician',
  input: z.object({ instrumentId: z.int(), channelId: z.int().nullable() }),
  run: async (lab, where): Promise<MeterPeriodRow[]> =>
    lab.store.meters.periods.find(where, {
      order: [
        ['holdsFrom', 'DESC'],
        ['id', 'DESC'],
      ],
    }),
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
