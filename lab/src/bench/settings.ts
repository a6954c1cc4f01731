import { attendedForS } from '@dusk-tally/core/units';
import type { BenchSettingsRow, Transaction } from '@dusk-tally/store';
import { ambientInput, benchSettingsInput } from '../inputs';
import { labTimeZone } from '../lots';
import { type Lab, LabError, procedure } from '../shared';

/** The bench’s settings; they are there from the first migration on. */
export const benchSettings = async (
  lab: Lab,
  transaction?: Transaction,
): Promise<BenchSettingsRow> => (await lab.store.bench.settings.one({ id: 1 }, { transaction }))!;

/** How long somebody is there without a break from a moment on, s; 0 where nobody is. */
export async function labAttendedForS(
  lab: Lab,
  now: Date,
  transaction?: Transaction,
): Promise<number> {
  const settings = await benchSettings(lab, transaction);
  return attendedForS(settings, await labTimeZone(lab, transaction), now);
}

/** Keeps the hours somebody is there and how long agents carry on alone. */
export const changeBenchSettings = procedure({
  role: 'lead',
  input: benchSettingsInput,
  run: async ({ lab, input: { version, ...after }, transaction, audit }): Promise<void> => {
    const before = await benchSettings(lab, transaction);
    const changed = await lab.store.bench.settings.update(
      { ...after, version: version + 1 },
      { id: 1, version },
      transaction,
    );
    if (changed === 0)
      throw new LabError(
        'conflict',
        'Someone changed the bench’s settings meanwhile. Reload to see how.',
      );
    await audit({
      act: 'changed bench settings',
      subjectType: 'settings',
      subjectId: 'bench',
      before,
      after,
    });
  },
});

/** Keeps the room’s temperature as it was just read. */
export const readAmbient = procedure({
  role: 'technician',
  input: ambientInput,
  run: async ({ lab, input, transaction, audit }): Promise<void> => {
    await lab.store.bench.settings.update(
      { ambientC: input.celsius, ambientAt: lab.now() },
      { id: 1 },
      transaction,
    );
    await audit({
      act: 'read room temperature',
      subjectType: 'settings',
      subjectId: 'bench',
      after: input,
    });
  },
});
