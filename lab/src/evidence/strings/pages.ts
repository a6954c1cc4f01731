import type { Chemistry } from '@dusk-tally/core/chemistry';
import type { StringWatch } from '@dusk-tally/core/evidence';
import type { Finding } from '@dusk-tally/core/units';
import type { StringLogRow } from '@dusk-tally/store';
import { z } from 'zod';
import { loadClaim } from '../../lots';
import { type Lab, question } from '../../shared';
import { rowOf, watchOf } from './stretches';

/** A column of a string’s log. */
export interface StringCell {
  header: string;
  cell: { id: number; number: string } | null;
}

/** A watched period in a list. */
export interface StringEntry {
  id: number;
  name: string;
  fileName: string;
  rows: number;
  durationS: number;
  startedAt: Date | null;
  cells: number;
  tied: number;
  standOut: string[];
  takenBack: { at: Date; why: string } | null;
  at: Date;
}

/** Everything the page of a string shows before a stretch is asked for. */
export interface StringPage {
  id: number;
  version: number;
  lotId: number;
  lotCode: string;
  name: string;
  fileName: string;
  rows: number;
  durationS: number;
  startedAt: Date | null;
  decimalsV: number;
  cells: StringCell[];
  chemistry: Chemistry;
  watch: StringWatch;
  findings: Finding[];
  takenBack: { at: Date; by: string; why: string } | null;
  /** Other periods of the lot this one can be put beside. */
  others: { id: number; name: string; durationS: number }[];
}

/** How a column is called: by its cell where that is known. */
const calledOf = (row: StringLogRow, numbers: Map<number, string>) => (column: number) =>
  numbers.get(row.cellIds[column] ?? 0) ?? row.cellHeaders[column]!;

async function numbersOf(lab: Lab, lotId: number): Promise<Map<number, string>> {
  const cells = await lab.store.cells.find({ lotId }, { columns: ['id', 'number'] });
  return new Map(cells.map(({ id, number }) => [id, number]));
}

/** The watched periods of a lot, newest first. */
export const lotStrings = question({
  role: 'technician',
  input: z.object({ lotId: z.int() }),
  run: async (lab, { lotId }): Promise<StringEntry[]> => {
    const [rows, numbers] = await Promise.all([
      lab.store.strings.logs.find({ lotId }, { order: [['id', 'DESC']] }),
      numbersOf(lab, lotId),
    ]);
    return rows.map((row) => ({
      id: row.id,
      name: row.name,
      fileName: row.fileName,
      rows: row.rows,
      durationS: row.durationS,
      startedAt: row.startedAt,
      cells: row.cellHeaders.length,
      tied: row.cellIds.filter((id) => id !== null).length,
      standOut: [
        ...new Set(
          (row.watch.nearFull?.standOut ?? []).map(({ cell }) => calledOf(row, numbers)(cell)),
        ),
      ],
      takenBack: row.takenBackAt ? { at: row.takenBackAt, why: row.takenBackWhy! } : null,
      at: row.at,
    }));
  },
});

/** One watched string. */
export const stringPage = question({
  role: 'technician',
  input: z.object({ stringId: z.int() }),
  run: async (lab, { stringId }): Promise<StringPage> => {
    const row = await rowOf(lab, stringId);
    const [{ lot, model }, numbers, others, by] = await Promise.all([
      loadClaim(lab, row.lotId),
      numbersOf(lab, row.lotId),
      lab.store.strings.logs.find(
        { lotId: row.lotId, takenBackAt: null },
        { columns: ['id', 'name', 'durationS', 'cellHeaders'], order: [['id', 'ASC']] },
      ),
      row.takenBackBy ? lab.store.people.one({ id: row.takenBackBy }) : null,
    ]);
    return {
      id: row.id,
      version: row.version,
      lotId: row.lotId,
      lotCode: lot.code,
      name: row.name,
      fileName: row.fileName,
      rows: row.rows,
      durationS: row.durationS,
      startedAt: row.startedAt,
      decimalsV: row.decimalsV,
      cells: row.cellHeaders.map((header, i) => {
        const id = row.cellIds[i] ?? null;
        return { header, cell: id === null ? null : { id, number: numbers.get(id)! } };
      }),
      chemistry: model.chemistry,
      watch: await watchOf(lab, row, model.chemistry, { fromS: 0, toS: row.durationS }),
      findings: row.findings,
      takenBack: row.takenBackAt
        ? { at: row.takenBackAt, by: by?.name ?? 'somebody', why: row.takenBackWhy! }
        : null,
      others: others
        .filter(({ cellHeaders }) => cellHeaders.length === row.cellHeaders.length)
        .map(({ id, name, durationS }) => ({ id, name, durationS })),
    };
  },
});

/** How one cell did in the strings it was watched in. */
export interface CellInString {
  stringId: number;
  name: string;
  at: Date;
  /** Shares of the time near full it was the highest, and the lowest; null where it never was near. */
  highest: number | null;
  lowest: number | null;
  cells: number;
  standsOut: string[];
}

/** The strings a cell was watched in, oldest first. */
export const stringsOfCell = question({
  role: 'technician',
  input: z.object({ lotId: z.int(), cellId: z.int() }),
  run: async (lab, { lotId, cellId }): Promise<CellInString[]> => {
    const rows = await lab.store.strings.logs.find(
      { lotId, takenBackAt: null },
      {
        order: [['id', 'ASC']],
        columns: ['id', 'name', 'cellIds', 'watch', 'startedAt', 'at'],
      },
    );
    return rows.flatMap((row) => {
      const column = row.cellIds.indexOf(cellId);
      if (column < 0) return [];
      const { nearFull } = row.watch;
      return [
        {
          stringId: row.id,
          name: row.name,
          at: row.startedAt ?? row.at,
          highest: nearFull?.highest[column] ?? null,
          lowest: nearFull?.lowest[column] ?? null,
          cells: row.cellIds.length,
          standsOut: (nearFull?.standOut ?? [])
            .filter(({ cell }) => cell === column)
            .map(({ why }) => why),
        },
      ];
    });
  },
});
