import { z } from 'zod';
import { widthsInput } from '../inputs';
import { procedure, question } from '../shared';

/** Widths of columns by table, px. */
export type OwnWidths = Record<string, Record<string, number>>;

/** Widths of columns as the person who asks left them, wherever that was. */
export const ownWidths = question({
  role: 'technician',
  input: z.object({}),
  run: async (lab, _, actor): Promise<OwnWidths> => {
    const rows = await lab.store.columnWidths.find({ personId: actor.id });
    return Object.fromEntries(rows.map(({ tableName, widths }) => [tableName, widths]));
  },
});

/** Keeps how wide somebody wants the columns of a table; it is theirs alone, and no act of the work. */
export const keepWidths = procedure({
  role: 'technician',
  input: widthsInput,
  run: async ({ lab, actor, input, transaction }): Promise<void> => {
    const row = { personId: actor.id, tableName: input.table, widths: input.widths };
    await lab.store.columnWidths.replaceMany([row], transaction);
  },
});
