import { z } from 'zod';
import { settingsInput } from '../inputs';
import { found, type Lab, LabError, procedure, question } from '../shared';

const NAMES = [
  'labName',
  'place',
  'currency',
  'timeZone',
  'guardFactor',
  'roomLowC',
  'roomHighC',
  'cellPrefix',
  'language',
] as const;
type Name = (typeof NAMES)[number];

/** Changes the lab’s own settings; with another guard factor or room every lot is judged anew. */
export const changeSettings = procedure({
  role: 'admin',
  input: settingsInput,
  run: async ({ lab, input, transaction, audit, changed }): Promise<void> => {
    const { version, reason, ...next } = input;
    const before = found(
      await lab.store.settings.one({ id: 1 }, { transaction, forUpdate: true }),
      'The lab’s settings',
    );
    if (before.version !== version)
      throw new LabError(
        'conflict',
        'Somebody changed the settings meanwhile. Nothing was stored; choose between theirs and yours.',
        { current: before },
      );
    const names = NAMES.filter((name) => before[name] !== next[name]);
    if (names.length === 0) throw new LabError('invalid', 'Nothing is different from before.');
    await lab.store.settings.update({ ...next, version: version + 1 }, { id: 1 }, transaction);
    if (names.includes('guardFactor')) changed({ what: 'guardFactor' });
    if (names.includes('roomLowC') || names.includes('roomHighC')) changed({ what: 'room' });
    const of = (row: Record<Name, unknown>) =>
      Object.fromEntries(names.map((name) => [name, row[name]]));
    await audit({
      act: 'changed settings',
      subjectType: 'lab',
      subjectId: 'settings',
      before: of(before),
      after: { ...of(next), reason },
    });
  },
});

/** A change of the settings as it was made. */
export interface SettingsChange {
  at: Date;
  person: string;
  reason: string;
  changes: { name: Name | 'mark'; before: unknown; after: unknown }[];
}

/** Changes of the settings, newest first, and how many lots a change may concern. */
export const settingsHistory = question({
  role: 'admin',
  input: z.object({}),
  run: async (lab: Lab): Promise<{ lots: number; changes: SettingsChange[] }> => {
    const rows = await lab.store.auditEntries.find(
      { subjectType: 'lab', subjectId: 'settings' },
      { order: [['id', 'DESC']] },
    );
    const lots = await lab.store.lots.count({});
    const changes = rows.map(({ at, personName, before, after }) => {
      const [was, is] = [before, after] as Record<string, unknown>[];
      return {
        at,
        person: personName,
        reason: String(is?.reason ?? ''),
        changes: ([...NAMES, 'mark'] as const)
          .filter((name) => is && name in is)
          .map((name) => ({
            name,
            before: was?.[name],
            after: is?.[name],
          })),
      };
    });
    return { lots, changes };
  },
});
