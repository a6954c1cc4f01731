import {
  type ChargeComparison,
  type ChargeWay,
  compareCharges,
  type ThroughInverter,
  throughInverter,
} from '@dusk-tally/core/evidence';
import type { CellRow, FigureRow, RunRow } from '@dusk-tally/store';
import { z } from 'zod';
import { testOfRun } from '../bench';
import { found, type Lab, question } from '../shared';
import { decimalsOf, listChannels } from '../evidence';

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
  /** Integrated, counted and typed charge side by side; null with fewer than two of them. */
  charges: ChargeComparison | null;
  /** What an inverter made of it, where its AC energy was typed. */
  inverter: ThroughInverter | null;
  inverterReason: string | null;
  /** The load test that names the cells of its string. */
  stringTest: { id: number; cells: string[] } | null;
  /** Digits after the point the log was written with. */
  decimals: { timeS: number; voltageV: number; currentA: number; temperatureC: number };
}

/** What was typed of the same cell, beside what its log gives. */
async function besideTheLog(
  lab: Lab,
  run: RunPageView['run'],
  figures: ReadonlyMap<string, FigureRow>,
): Promise<Pick<RunPageView, 'charges' | 'inverter' | 'inverterReason'>> {
  const typed = (await lab.store.evidence.latestReadings(run.lotId, [run.cellId])).filter(
    ({ value }) => value !== null,
  );
  const shown = typed.length
    ? await lab.store.figures.find({ readingId: typed.map(({ id }) => id) })
    : [];
  const ofQuantity = (quantity: FigureRow['quantity']) =>
    shown.find((row) => row.quantity === quantity);
  const { dischargedAh, counterAh } = run.summary;
  const capacity = figures.get('capacity');
  const ways: ChargeWay[] = [];
  const integrated = dischargedAh ?? capacity?.value ?? null;
  const expanded = (u: number | null | undefined) => (u === null || u === undefined ? null : 2 * u);
  if (integrated !== null && run.summary.dialect.columns.some(({ role }) => role === 'current'))
    ways.push({
      way: 'integrated',
      ah: integrated,
      expandedAh: expanded(capacity?.standardUncertainty),
    });
  if (counterAh !== null) ways.push({ way: 'counter', ah: counterAh, expandedAh: null });
  const typedCapacity = ofQuantity('capacity');
  if (typedCapacity)
    ways.push({
      way: 'typed',
      ah: typedCapacity.value,
      expandedAh: expanded(typedCapacity.standardUncertainty),
    });
  const [dc, ac] = [figures.get('energy'), ofQuantity('energyBehindInverter')];
  const through =
    dc && ac
      ? throughInverter(
          dc.detail,
          ac,
          run.summary.endS !== null ? run.summary.endS - (run.summary.loadOnS ?? 0) : null,
        )
      : null;
  return {
    charges: compareCharges(ways),
    inverter: through?.result ?? null,
    inverterReason: through?.reason ?? null,
  };
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
      stringTest: run.summary.string ? await testOfRun(lab, id) : null,
      ...(await besideTheLog(lab, run, newest)),
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
