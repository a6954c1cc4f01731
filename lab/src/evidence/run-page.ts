import type { CellRow, FigureRow, RunRow } from '@dusk-tally/store';
import { z } from 'zod';
import { found, question } from '../shared';
import { listChannels } from './channels';
import { decimalsOf } from './recompute';

export interface RunPageView {
  run: Omit<RunRow, 'curve'>;
  cell: Pick<CellRow, 'number'>;
  lot: { code: string; title: string };
  file: { name: string; sha256: string; bytes: number };
  channel: string | null;
  instrument: string | null;
  person: string;
  /** The newest figure of each quantity at the run’s cut-off. */
  figures: FigureRow[];
  /** Digits after the point the log was written with. */
  decimals: { timeS: number; voltageV: number; currentA: number; temperatureC: number };
}

/** One run with everything that was made of it. */
export const runPage = question({
  role: 'technician',
  input: z.object({ id: z.int() }),
  run: async (lab, { id }, actor): Promise<RunPageView> => {
    const { store } = lab;
    const row = found(await store.runs.one({ id }), 'That run');
    const { curve: _curve, ...run } = row;
    const [cell, lot, file, person, instrument, figures, channels, heads] = await Promise.all([
      store.cells.one({ id: run.cellId }, { columns: ['id', 'number'] }),
      store.lots.one({ id: run.lotId }),
      store.logFiles.one({ id: run.logFileId }),
      store.people.one({ id: run.personId }, { columns: ['id', 'name'] }),
      run.instrumentId ? store.instruments.one({ id: run.instrumentId }) : null,
      store.figures.find({ runId: id }, { order: [['id', 'ASC']] }),
      listChannels(lab, actor, {}),
      store.traceBlocks.find({ runId: id, blockIndex: 0 }),
    ]);
    const newest = new Map<string, FigureRow>();
    for (const figure of figures)
      if (figure.cutoffV === null || figure.cutoffV === run.summary.cutoffV)
        newest.set(figure.quantity, figure);
    return {
      run,
      cell: found(cell, 'Its cell'),
      lot: found(lot, 'Its lot'),
      file: found(file, 'Its file'),
      channel: channels.find((channel) => channel.id === run.channelId)?.title ?? null,
      instrument: instrument?.name ?? null,
      person: person?.name ?? '',
      figures: [...newest.values()],
      decimals: decimalsOf(
        heads.map((block) => ({
          column: block.columnName as 'timeS',
          index: block.blockIndex,
          payload: new Uint8Array(block.payload),
        })),
      ),
    };
  },
});
