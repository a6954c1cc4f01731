import type { ClaimKind } from '@dusk-tally/core/arrivals';
import type { Correction } from '@dusk-tally/core/evidence';
import type { Bound } from '@dusk-tally/core/units';
import type { GradeEvidence, HoldRule, ItemStateName } from '@dusk-tally/core/verdicts';
import { columnTypes as c, QueryTypes, Table, Tables, type Transaction } from '../base';

/** A result of a cell that may not reach a verdict. */
export interface HeldResult {
  /** Null where it is the channel that waits. */
  holdId: number | null;
  rule: HoldRule;
  text: string;
  runId: number | null;
  readingId: number | null;
  /** The held capacity, Ah. */
  capacityAh: number;
}

/** Where one claimed item of one cell stands: derived and replaceable. */
export interface AssessmentRow {
  cellId: number;
  item: ClaimKind;
  lotId: number;
  state: ItemStateName;
  /** What was measured, at the claim’s conditions where it could be carried there. */
  value: number | null;
  standardUncertainty: number | null;
  bound: Bound | null;
  /** Limits of the claim. */
  low: number | null;
  high: number | null;
  probability: number | null;
  figureId: number | null;
  detail: {
    differences: string[];
    corrections: Correction[];
    /** Why it is held, what it waits for, or what contradicts it. */
    why: string[];
  };
}

/** An assessment of no particular cell: of many that are alike. */
export type AlikeAssessment = Omit<AssessmentRow, 'cellId' | 'lotId'>;

/** Where a cell stands as a whole: grade and state of health, derived and replaceable. */
export interface StandingRow {
  cellId: number;
  lotId: number;
  /** The capacity that counts, as measured. */
  capacityRawFigureId: number | null;
  capacityRawAh: number | null;
  ocvV: number | null;
  stateOfHealth: number | null;
  grade: string | null;
  detail: {
    reasons: string[];
    waitingFor: string[];
    /** All results of the cell that are held. */
    holds: HeldResult[];
  };
  /** What it is graded by: another scheme can be tried on it. */
  evidence: GradeEvidence;
  /** Hash of everything read, the assessments among it. */
  inputHash: string;
  updatedAt: Date;
}

/** What moved in a lot on a day without an act on it, by one kind of cause. */
export interface LotMoveRow {
  id: number;
  lotId: number;
  /** On the lab’s calendar. */
  day: string;
  /** Kinds of change the acts said, sorted, with commas between. */
  causes: string;
  at: Date;
  detail: {
    /** Lots the acts were about. */
    fromLots: number[];
    items: {
      item: ClaimKind;
      /** Cells whose value or standing moved. */
      cells: number;
      /** The largest move of a value, as a share of it; null where only standings moved. */
      most: number | null;
    }[];
    /** Cells that stand elsewhere: first and last standing of the day. */
    crossed: { cellId: number; item: ClaimKind; from: ItemStateName; to: ItemStateName }[];
  };
}

const COLUMNS = [
  'state',
  'value',
  'standardUncertainty',
  'bound',
  'low',
  'high',
  'probability',
  'figureId',
  'detail',
] as const;

/** The judged cells: one row an item, one row a cell. */
export class VerdictTables extends Tables {
  readonly assessments = new Table<AssessmentRow>(
    this.session,
    'assessments',
    {
      cellId: c.ownId,
      item: c.ownText,
      lotId: c.whole,
      state: c.text,
      value: c.real,
      standardUncertainty: c.real,
      bound: c.text,
      low: c.real,
      high: c.real,
      probability: c.real,
      figureId: c.whole,
      detail: c.long,
    },
    ['detail'],
  );
  readonly standings = new Table<StandingRow>(
    this.session,
    'standings',
    {
      cellId: c.ownId,
      lotId: c.whole,
      capacityRawFigureId: c.whole,
      capacityRawAh: c.real,
      ocvV: c.real,
      stateOfHealth: c.real,
      grade: c.text,
      detail: c.long,
      evidence: c.long,
      inputHash: c.text,
      updatedAt: c.moment,
    },
    ['detail', 'evidence'],
  );

  readonly lotMoves = new Table<LotMoveRow>(
    this.session,
    'lot_moves',
    {
      id: c.autoId,
      lotId: c.whole,
      day: c.day,
      causes: c.text,
      at: c.moment,
      detail: c.long,
    },
    ['detail'],
  );

  /** Writes the same assessments for many cells of a lot, one statement an item. */
  async assessAlike(
    lotId: number,
    cellIds: readonly number[],
    items: readonly AlikeAssessment[],
    transaction: Transaction,
  ): Promise<void> {
    for (const item of items)
      await this.session.run(
        `INSERT INTO assessments (cellId, lotId, item, ${COLUMNS.join(', ')})
         SELECT id, lotId, :item, ${COLUMNS.map((column) => `:${column}`).join(', ')}
           FROM cells WHERE lotId = :lotId AND id IN (:cellIds)
         ON DUPLICATE KEY UPDATE lotId = VALUES(lotId),
           ${COLUMNS.map((column) => `${column} = VALUES(${column})`).join(', ')}`,
        {
          type: QueryTypes.INSERT,
          replacements: { ...item, detail: JSON.stringify(item.detail), lotId, cellIds },
          transaction,
        },
      );
  }

  /** The run whose capacity counts, of each cell of a lot that has one. */
  async countingRuns(lotId: number): Promise<Map<number, number>> {
    const rows = await this.session.rows<{ cellId: number; runId: number }>(
      `SELECT s.cellId, f.runId FROM standings s JOIN figures f ON f.id = s.capacityRawFigureId
        WHERE s.lotId = :lotId AND f.runId IS NOT NULL`,
      { type: QueryTypes.SELECT, replacements: { lotId } },
    );
    return new Map(rows.map(({ cellId, runId }) => [cellId, runId]));
  }

  /** How many cells each lot has. */
  cellCounts(): Promise<{ lotId: number; count: number }[]> {
    return this.session.rows('SELECT lotId, COUNT(*) AS count FROM cells GROUP BY lotId', {
      type: QueryTypes.SELECT,
    });
  }

  /** How many cells with a capacity each lot has, by where it stands. */
  capacityCounts(): Promise<
    (Pick<AssessmentRow, 'lotId' | 'state' | 'bound'> & { count: number })[]
  > {
    return this.session.rows(
      `SELECT lotId, state, bound, COUNT(*) AS count FROM assessments
        WHERE item = 'capacity' AND value IS NOT NULL GROUP BY lotId, state, bound`,
      { type: QueryTypes.SELECT },
    );
  }

  /** How many cells of a lot stand where by their capacity, in one question. */
  lotCapacityStates(
    lotId: number,
    transaction?: Transaction,
  ): Promise<(Pick<AssessmentRow, 'state'> & { count: number })[]> {
    return this.session.rows(
      `SELECT state, COUNT(*) AS count FROM assessments
        WHERE lotId = :lotId AND item = 'capacity' GROUP BY state`,
      { type: QueryTypes.SELECT, replacements: { lotId }, transaction },
    );
  }

  /** How many cells with an AC resistance some lots have. */
  resistanceCounts(lotIds: readonly number[]): Promise<{ lotId: number; count: number }[]> {
    if (lotIds.length === 0) return Promise.resolve([]);
    return this.session.rows(
      `SELECT lotId, COUNT(*) AS count FROM assessments
        WHERE lotId IN (:lotIds) AND item = 'acResistance' AND value IS NOT NULL GROUP BY lotId`,
      { type: QueryTypes.SELECT, replacements: { lotIds } },
    );
  }

  /** How many cells of each lot are ready for the bench and have no capacity yet. */
  readyUntested(): Promise<{ lotId: number; count: number }[]> {
    return this.session.rows(
      `SELECT a.lotId, COUNT(*) AS count FROM cell_arrivals a
        LEFT JOIN assessments s
          ON s.cellId = a.cellId AND s.item = 'capacity' AND s.value IS NOT NULL
        WHERE a.gate = 'ready' AND s.cellId IS NULL GROUP BY a.lotId`,
      { type: QueryTypes.SELECT },
    );
  }

  /** Takes away assessments of items that are no longer told of a lot’s cells. */
  async dropItems(
    lotId: number,
    kept: readonly ClaimKind[],
    transaction: Transaction,
  ): Promise<void> {
    await this.session.run('DELETE FROM assessments WHERE lotId = :lotId AND item NOT IN (:kept)', {
      type: QueryTypes.BULKDELETE,
      replacements: { lotId, kept },
      transaction,
    });
  }
}
