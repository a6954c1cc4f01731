import { CLAIM_ITEMS } from '@dusk-tally/core/arrivals';
import type { AssessedItem } from '@dusk-tally/core/verdicts';
import type {
  CellRow,
  FigureRow,
  InstrumentRow,
  LogFileRow,
  ReadingRow,
  RunRow,
} from '@dusk-tally/store';
import { z } from 'zod';
import { cellLife } from './cell-life';
import { found, type Lab, question } from '../shared';
import { listChannels } from '../evidence';
import { findingViews } from '../arrivals';
import { type EffectiveClaim, loadClaim } from '../lots';
import { doubtsOf } from './cell-doubts';
import { assessedItem } from './assessment-rows';
import { claimedItems } from './cell-evidence';
import { claimedWords } from './claimed-words';
import { cellLines } from './lot-views';

export interface RunView extends Omit<RunRow, 'curve'> {
  file: LogFileRow;
  instrument: InstrumentRow | null;
  person: string;
  figures: FigureRow[];
}

export interface ReadingView extends ReadingRow {
  person: string;
  instrument: string | null;
  /** The run it was read of point by point. */
  handRunId: number | null;
}

/** One claimed item of a cell: what is claimed, and where it stands. */
export interface CellItem {
  words: string;
  claimed: string;
  unit: string | null;
  assessed: AssessedItem;
}

async function itemsOf(lab: Lab, cellId: number, claim: EffectiveClaim): Promise<CellItem[]> {
  const rows = await lab.store.verdicts.assessments.find({ cellId });
  return claimedItems(claim).flatMap((item): CellItem[] => {
    const row = rows.find(({ item: kind }) => kind === item.kind);
    if (!row) return [];
    const { words, unit } = CLAIM_ITEMS[item.kind];
    return [
      {
        words,
        claimed: claimedWords(item),
        unit: item.kind === 'size' ? 'mm' : unit,
        assessed: assessedItem(row),
      },
    ];
  });
}

/** Everything known of one cell. */
export const cellPage = question({
  role: 'technician',
  input: z.object({ number: z.string().max(20) }),
  run: async (lab, { number }) => {
    const { store } = lab;
    const cell: CellRow = found(await store.cells.one({ number }), `Cell ${number}`);
    const [lot, lines, runs, readings, figures, people, instruments, files] = await Promise.all([
      store.lots.one({ id: cell.lotId }),
      cellLines(lab, cell.lotId),
      store.runs.find({ cellId: cell.id }, { order: [['id', 'DESC']] }),
      store.readings.find({ cellId: cell.id }, { order: [['id', 'DESC']] }),
      store.figures.find({ cellId: cell.id }, { order: [['id', 'ASC']] }),
      store.people.find({}, { columns: ['id', 'name'] }),
      store.instruments.find({}),
      store.logFiles.find(
        { lotId: cell.lotId },
        { columns: ['id', 'name', 'sha256', 'bytes', 'at', 'lotId', 'personId'] },
      ),
    ]);
    const personName = new Map(people.map((person) => [person.id, person.name]));
    const instrument = new Map(instruments.map((row) => [row.id, row]));
    const fileById = new Map(files.map((file) => [file.id, file]));
    const [arrival, findings, recoveries, pack] = await Promise.all([
      store.arrivals.cells.one({ cellId: cell.id }),
      findingViews(lab, { lotId: cell.lotId, cellId: cell.id }),
      store.arrivals.recoveries.find({ cellId: cell.id }, { order: [['id', 'ASC']] }),
      cell.packId ? store.arrivals.packs.one({ id: cell.packId }) : null,
    ]);
    const handRuns = new Map(
      (await store.hand.logs.find({ cellId: cell.id }, { columns: ['id', 'benchRunId'] })).map(
        (log) => [log.id, log.benchRunId],
      ),
    );
    const at = lines.findIndex((line) => line.id === cell.id);
    const { claim } = await loadClaim(lab, cell.lotId);
    return {
      doubts: await doubtsOf(lab, cell, runs, lines[at]!, claim),
      cell,
      lot: found(lot, 'The lot'),
      line: lines[at]!,
      items: await itemsOf(lab, cell.id, claim),
      arrival,
      findings,
      recoveries: recoveries.map((entry) => ({
        ...entry,
        person: personName.get(entry.personId) ?? '',
      })),
      pack,
      life: await cellLife(lab, found(lot, 'The lot'), cell, (id) => personName.get(id) ?? null),
      previous: lines[at - 1]?.number ?? null,
      next: lines[at + 1]?.number ?? null,
      runs: runs.map(({ curve: _curve, ...run }): RunView => ({
        ...run,
        file: fileById.get(run.logFileId)!,
        instrument: run.instrumentId ? (instrument.get(run.instrumentId) ?? null) : null,
        person: personName.get(run.personId) ?? '',
        figures: newestPerQuantity(
          figures.filter((figure) => figure.runId === run.id),
          run.summary.cutoffV,
        ),
      })),
      readings: readings.map((reading): ReadingView => ({
        ...reading,
        person: personName.get(reading.personId) ?? '',
        instrument: reading.instrumentId
          ? (instrument.get(reading.instrumentId)?.name ?? null)
          : null,
        handRunId: handRuns.get(reading.handLogId ?? 0) ?? null,
      })),
    };
  },
});

/** The newest figure of each quantity; those to a cut-off only at the run's present one. */
function newestPerQuantity(figures: FigureRow[], cutoffV: number): FigureRow[] {
  const newest = new Map<string, FigureRow>();
  for (const figure of figures) {
    if (figure.cutoffV === null || figure.cutoffV === cutoffV) newest.set(figure.quantity, figure);
  }
  return [...newest.values()];
}

/** A figure with everything needed to defend it. */
export const figureTrail = question({
  role: 'technician',
  input: z.object({ id: z.int() }),
  run: async (lab, { id }, actor) => {
    const { store } = lab;
    const row = found(await store.figures.one({ id }), 'That figure');
    const cell = found(await store.cells.one({ id: row.cellId }), 'Its cell');
    const run = row.runId ? await store.runs.one({ id: row.runId }) : null;
    const reading = row.readingId ? await store.readings.one({ id: row.readingId }) : null;
    const instrumentId = run?.instrumentId ?? reading?.instrumentId ?? null;
    const channels = await listChannels(lab, actor, {});
    const [file, instrument, person] = await Promise.all([
      run ? store.logFiles.one({ id: run.logFileId }) : null,
      instrumentId ? store.instruments.one({ id: instrumentId }) : null,
      store.people.one({ id: run?.personId ?? reading?.personId ?? 0 }),
    ]);
    return {
      id,
      cell: cell.number,
      figure: row.detail,
      cutoffV: row.cutoffV,
      inputHash: row.inputHash,
      runId: row.runId,
      channel: channels.find((channel) => channel.id === run?.channelId)?.title ?? null,
      cutoffOfRunV: run?.summary.cutoffV ?? null,
      durationS: run?.durationS ?? null,
      holes: run
        ? [
            ...run.summary.sections.flatMap(({ holes }) => holes ?? []),
            ...(run.summary.holes ?? []),
          ].filter((hole, i, all) => all.findIndex(({ fromS }) => fromS === hole.fromS) === i)
        : [],
      rows: run?.rows ?? null,
      file: file ? { name: file.name, sha256: file.sha256 } : null,
      keptDespite: reading?.keptDespite ?? null,
      instrument: instrument
        ? {
            name: instrument.name,
            serial: instrument.serial,
            calibratedOn: instrument.calibratedOn,
            dueOn: instrument.dueOn,
          }
        : null,
      person: person?.name ?? null,
      at: run?.createdAt ?? reading?.at ?? null,
    };
  },
});
