import { type CalibrationPoint, calibrationState, correctReading } from '@dusk-tally/core/evidence';
import type { ChannelRow } from '@dusk-tally/store';
import { z } from 'zod';
import { found, isDuplicate, LabError, procedure, question } from '../shared';
import { labDay } from '../lots';

const day = z.iso
  .date('Expected a date.')
  .nullish()
  .transform((value) => value ?? null);

const voltageTable = z
  .array(z.object({ shown: z.number().finite(), reference: z.number().finite() }))
  .max(50)
  .default([])
  .refine((points) => new Set(points.map((point) => point.shown)).size === points.length, {
    message: 'Expected each shown voltage once.',
  });

const fields = {
  name: z.string().trim().min(1, 'Expected a name.').max(40),
  calibratedOn: day,
  dueOn: day,
  voltageTable,
};

/** Adds a channel to a tester. */
export const addChannel = procedure({
  role: 'lead',
  input: z.object({ instrumentId: z.int(), ...fields }),
  run: async ({ lab, input, transaction, audit }): Promise<ChannelRow> => {
    const instrument = found(
      await lab.store.instruments.one({ id: input.instrumentId }, { transaction }),
      'That instrument',
    );
    if (instrument.kind !== 'tester')
      throw new LabError('invalid', `${instrument.name} is no tester; only testers have channels.`);
    const row = await lab.store.meters.channels.insert(input, transaction).catch((error) => {
      if (isDuplicate(error))
        throw new LabError('duplicate', `${instrument.name} has a channel ${input.name} already.`, {
          field: 'name',
        });
      throw error;
    });
    await audit({
      act: 'added channel',
      subjectType: 'instrument',
      subjectId: instrument.name,
      after: input,
    });
    return row;
  },
});

/** Changes a channel’s calibration: dates, and what a reference meter said of its voltages. */
export const changeChannel = procedure({
  role: 'lead',
  input: z.object({ id: z.int(), version: z.int(), ...fields }),
  run: async ({ lab, input, transaction, audit, changed }): Promise<void> => {
    const { channels } = lab.store.meters;
    const before = found(
      await channels.one({ id: input.id }, { transaction, forUpdate: true }),
      'That channel',
    );
    if (before.version !== input.version)
      throw new LabError(
        'conflict',
        `Someone changed channel ${before.name} meanwhile. Reload to see how.`,
      );
    const { id, version, ...after } = input;
    await channels.update({ ...after, version: version + 1 }, { id }, transaction);
    changed({ what: 'channelCalibration', channelId: id });
    await audit({
      act: 'changed channel',
      subjectType: 'channel',
      subjectId: String(id),
      before,
      after,
    });
  },
});

/** A channel as lists show it. */
export interface ChannelView extends ChannelRow {
  instrument: string;
  /** `Bench west, 3`. */
  title: string;
  calibration: ReturnType<typeof calibrationState>;
}

/** All channels with their instruments, in order of name. */
export const listChannels = question({
  role: 'technician',
  input: z.object({}),
  run: async (lab): Promise<ChannelView[]> => {
    const [instruments, channels] = await Promise.all([
      lab.store.instruments.find({ kind: 'tester' }),
      lab.store.meters.channels.find({}),
    ]);
    const today = await labDay(lab);
    const byId = new Map(instruments.map((row) => [row.id, row]));
    const only = (id: number) => channels.filter((c) => c.instrumentId === id).length === 1;
    return channels
      .flatMap((channel): ChannelView[] => {
        const instrument = byId.get(channel.instrumentId);
        if (!instrument) return [];
        return [
          {
            ...channel,
            instrument: instrument.name,
            title: only(instrument.id) ? instrument.name : `${instrument.name}, ${channel.name}`,
            calibration: calibrationState(channel.dueOn ?? instrument.dueOn, today),
          },
        ];
      })
      .sort((a, b) => a.title.localeCompare(b.title, undefined, { numeric: true }));
  },
});

/** Volts a channel showed, by its table; as shown where it has none. */
export const referenceVolts = (points: readonly CalibrationPoint[], shown: number): number =>
  points.length === 0 ? shown : correctReading(points, shown);
