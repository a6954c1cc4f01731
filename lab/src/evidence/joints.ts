import { z } from 'zod';
import { found, procedure } from '../shared';

/** Records that a cell’s joint was cleaned and tightened again, before its run is repeated. */
export const recordRetightened = procedure({
  role: 'technician',
  input: z.object({
    number: z.string().max(20),
    torqueNm: z
      .number()
      .positive('Expected a torque above 0 N·m.')
      .max(200)
      .nullish()
      .transform((value) => value ?? null),
  }),
  run: async ({ lab, input, transaction, audit }): Promise<void> => {
    const cell = found(
      await lab.store.cells.one({ number: input.number }, { transaction }),
      `Cell ${input.number}`,
    );
    await lab.store.cells.update({ retightenedAt: lab.now() }, { id: cell.id }, transaction);
    await audit({
      act: 'tightened its joint again',
      subjectType: 'cell',
      subjectId: cell.number,
      after: { torqueNm: input.torqueNm },
    });
  },
});
