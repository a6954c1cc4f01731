import { calibrationState } from '@dusk-tally/core/evidence';
import type { ChannelRow } from '@dusk-tally/store';
import { z } from 'zod';
import { channelChange, channelInput } from '../inputs';
import { found, isDuplicate, LabError, procedure, question } from '../shared';
import { labDay } from '../lots';
import { holdsFromOf } from './instruments';
import { keepPeriod } from './meter-periods';

/** Adds a channel to a tester. */
export const addChannel = procedure({
  role: 'lead',
  input: channelInput,
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

/** Changes a channel’s calibration from a day on: dates, and what a reference meter said of its voltages. */
export const changeChannel = procedure({
  role: 'lead',
  input: channelChange,
  run: async ({ lab, actor, input, transaction, audit, changed }): Promise<void> => {
    const { channels } = lab.store.meters;
    const { id, version, name, reason, calibratedOn, dueOn, voltageTable } = input;
    const before = found(
      await channels.one({ id }, { transaction, forUpdate: true }),
      'That channel',
    );
    if (before.version !== version)
      throw new LabError(
        'conflict',
        `Someone changed channel ${before.name} meanwhile. Nothing was stored; choose between theirs and yours.`,
        { current: before },
      );
    const { holdsFrom, today } = await holdsFromOf(lab, input.holdsFrom);
    const data = { calibratedOn, dueOn, voltageTable };
    const was = {
      calibratedOn: before.calibratedOn,
      dueOn: before.dueOn,
      voltageTable: before.voltageTable,
    };
    const now = await keepPeriod(
      lab,
      { instrumentId: before.instrumentId, channelId: id, before: was },
      { holdsFrom, data, reason, today },
      actor,
      transaction,
    );
    await channels
      .update({ name, ...now, version: version + 1 }, { id }, transaction)
      .catch((error: unknown) => {
        if (isDuplicate(error))
          throw new LabError('duplicate', `This tester has a channel ${name} already.`, {
            field: 'name',
          });
        throw error;
      });
    changed({ what: 'channelCalibration', channelId: id });
    await audit({
      act: 'changed channel',
      subjectType: 'channel',
      subjectId: id,
      before: { name: before.name, ...was },
      after: { name, ...data, holdsFrom, reason },
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
