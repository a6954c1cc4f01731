import type { HoldRule } from '@dusk-tally/core/verdicts';
import { columnTypes as c, QueryTypes, Table, Tables, type Transaction } from '../base';

/** One reason to hold one result: of a run, or of a typed reading. */
export interface ResultHoldRow {
  id: number;
  lotId: number;
  cellId: number;
  runId: number | null;
  readingId: number | null;
  rule: HoldRule;
  text: string;
  /** The run it may be swapped with; null for all other rules. */
  otherRunId?: number | null;
  /** Who set it aside; null where a rule did. */
  personId: number | null;
  at: Date;
  liftedAt: Date | null;
  liftedBy: number | null;
  liftReason: string | null;
  version: number;
}

/** A run that had been given to the wrong cell. */
export interface RunMoveRow {
  id: number;
  runId: number;
  fromLotId: number;
  fromCellId: number;
  toLotId: number;
  toCellId: number;
  reason: string;
  personId: number;
  at: Date;
}

/** Holds of results, and moves of runs between cells. */
export class HoldTables extends Tables {
  readonly holds = new Table<ResultHoldRow>(this.session, 'result_holds', {
    id: c.autoId,
    lotId: c.whole,
    cellId: c.whole,
    runId: c.whole,
    readingId: c.whole,
    rule: c.text,
    text: c.text,
    otherRunId: c.whole,
    personId: c.whole,
    at: c.moment,
    liftedAt: c.moment,
    liftedBy: c.whole,
    liftReason: c.text,
    version: c.version,
  });
  readonly moves = new Table<RunMoveRow>(this.session, 'run_moves', {
    id: c.autoId,
    runId: c.whole,
    fromLotId: c.whole,
    fromCellId: c.whole,
    toLotId: c.whole,
    toCellId: c.whole,
    reason: c.text,
    personId: c.whole,
    at: c.moment,
  });

  /** All figures of a run go to another cell with it. */
  async moveFigures(
    runId: number,
    to: { cellId: number; lotId: number },
    transaction: Transaction,
  ): Promise<void> {
    await this.session.run(
      'UPDATE figures SET cellId = :cellId, lotId = :lotId WHERE runId = :runId',
      { type: QueryTypes.UPDATE, replacements: { runId, ...to }, transaction },
    );
  }
}
