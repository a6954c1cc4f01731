import {
  type LogMapping,
  MAPPABLE_ROLES,
  type Role,
  UNITS_OF_ROLE,
} from '@dusk-tally/core/evidence';
import { z } from 'zod';
import { type Lab, procedure, question } from '../shared';

const mapping = z
  .object({
    columns: z
      .array(
        z.object({
          role: z.enum(MAPPABLE_ROLES as [Role, ...Role[]]),
          unit: z.string().max(12).nullable(),
        }),
      )
      .min(2, 'Expected at least two columns.')
      .max(400),
    positiveDischarges: z.boolean().nullable(),
  })
  .superRefine(({ columns }, context) => {
    const count = (role: Role) => columns.filter((column) => column.role === role).length;
    const complain = (message: string) => context.addIssue({ code: 'custom', message });
    if (count('time') !== 1) complain('Expected one column as time.');
    if (count('voltage') + count('cellVoltage') === 0)
      complain('Expected a column as voltage, or some as cell voltages.');
    for (const role of ['voltage', 'current', 'temperature', 'counterAh', 'counterWh'] as const)
      if (count(role) > 1) complain(`Expected at most one column as ${role}.`);
    for (const { role, unit } of columns)
      if (unit !== null && !UNITS_OF_ROLE[role]?.includes(unit))
        complain(`“${unit}” is no unit of ${role}.`);
  });

/** Keeps how the columns of one header shape are to be read; the newest counts. */
export const keepMapping = procedure({
  role: 'technician',
  input: z.object({
    shape: z.string().regex(/^\d{1,4}-[0-9a-f]{16}$/),
    fileName: z.string().min(1).max(255),
    mapping,
  }),
  run: async ({ lab, actor, input, transaction, audit }): Promise<void> => {
    await lab.store.meters.mappings.insert(
      { ...input, personId: actor.id, at: lab.now() },
      transaction,
    );
    await audit({
      act: 'assigned columns',
      subjectType: 'log',
      subjectId: input.fileName.slice(0, 60),
      after: { shape: input.shape, ...input.mapping },
    });
  },
});

/** Newest mapping of every shape. */
export async function knownMappings(lab: Lab): Promise<Record<string, LogMapping>> {
  const rows = await lab.store.meters.mappings.find({}, { order: [['id', 'ASC']] });
  return Object.fromEntries(rows.map((row) => [row.shape, row.mapping]));
}

export const listMappings = question({
  role: 'technician',
  input: z.object({}),
  run: (lab) => knownMappings(lab),
});
