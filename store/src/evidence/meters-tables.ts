import type * as Rows from './meters-rows';
import { columnTypes as c, QueryTypes, Table, Tables, type Transaction } from '../base';

/** Tables of channels and of what is known about meters. */
export class MeterTables extends Tables {
  readonly channels = new Table<Rows.ChannelRow>(
    this.session,
    'channels',
    {
      id: c.autoId,
      instrumentId: c.whole,
      name: c.text,
      calibratedOn: c.day,
      dueOn: c.day,
      voltageTable: c.long,
      version: c.version,
    },
    ['voltageTable'],
  );
  readonly periods = new Table<Rows.MeterPeriodRow>(
    this.session,
    'meter_periods',
    {
      id: c.autoId,
      instrumentId: c.whole,
      channelId: c.whole,
      holdsFrom: c.day,
      data: c.long,
      reason: c.text,
      personId: c.whole,
      at: c.moment,
    },
    ['data'],
  );
  readonly effects = new Table<Rows.ChannelEffectRow>(
    this.session,
    'channel_effects',
    {
      channelId: c.ownId,
      effect: c.long,
      heldAfterRunId: c.whole,
      heldReason: c.text,
      updatedAt: c.moment,
    },
    ['effect'],
  );
  readonly modelFactors = new Table<Rows.ModelFactorsRow>(
    this.session,
    'model_factors',
    { modelId: c.ownId, factors: c.long, updatedAt: c.moment },
    ['factors'],
  );
  readonly looks = new Table<Rows.ChannelLookRow>(this.session, 'channel_looks', {
    id: c.autoId,
    channelId: c.whole,
    upToRunId: c.whole,
    note: c.text,
    personId: c.whole,
    at: c.moment,
  });
  readonly comparisons = new Table<Rows.MeterComparisonRow>(
    this.session,
    'meter_comparisons',
    {
      id: c.autoId,
      title: c.text,
      unit: c.text,
      readings: c.long,
      personId: c.whole,
      at: c.moment,
    },
    ['readings'],
  );
  readonly mappings = new Table<Rows.LogMappingRow>(
    this.session,
    'log_mappings',
    {
      id: c.autoId,
      shape: c.text,
      mapping: c.long,
      fileName: c.text,
      personId: c.whole,
      at: c.moment,
    },
    ['mapping'],
  );

  /**
   * Capacities of cells that ran more than once, on known channels, oldest first: the newest
   * figure of each run at the cut-off it was computed for. Of the summaries only what says how
   * the run was done: curves of thousands of runs are not read for that.
   */
  repeats(transaction?: Transaction): Promise<Rows.RepeatRow[]> {
    return this.session.rows<Rows.RepeatRow>(
      `SELECT r.id AS runId, r.cellId, c.number AS cell, c.controlSince IS NOT NULL AS isControl,
              r.channelId, r.lotId, l.modelId, f.id AS figureId, f.value, f.cutoffV,
              CONCAT(JSON_REMOVE(r.summary, '$.shape', '$.dialect', '$.string'), '') AS summary, r.ambientC,
              COALESCE(r.startedAt, r.createdAt) AS at
         FROM runs r
         JOIN cells c ON c.id = r.cellId
         JOIN lots l ON l.id = r.lotId
         JOIN (SELECT cellId FROM runs GROUP BY cellId HAVING COUNT(*) > 1) repeated ON repeated.cellId = r.cellId
         JOIN (SELECT runId, MAX(id) AS id FROM figures
                WHERE quantity = 'capacity' AND runId IS NOT NULL GROUP BY runId) newest ON newest.runId = r.id
         JOIN figures f ON f.id = newest.id
        WHERE f.bound = 'exact'
          AND NOT EXISTS (SELECT 1 FROM result_holds h
                           WHERE h.runId = r.id AND h.liftedAt IS NULL AND h.rule NOT IN ('outOfLine', 'channel'))
        ORDER BY at, r.id`,
      { type: QueryTypes.SELECT, transaction },
    );
  }

  /** Whether one of these cells ran more than once, or did before a run was moved away. */
  async anyRepeated(cellIds: readonly number[], transaction: Transaction): Promise<boolean> {
    if (cellIds.length === 0) return false;
    const rows = await this.session.rows<{ cellId: number }>(
      `(SELECT cellId FROM runs WHERE cellId IN (:cellIds) GROUP BY cellId HAVING COUNT(*) > 1 LIMIT 1)
       UNION (SELECT fromCellId FROM run_moves WHERE fromCellId IN (:cellIds) LIMIT 1)`,
      { type: QueryTypes.SELECT, replacements: { cellIds }, transaction },
    );
    return rows.length > 0;
  }

  /** Lots with a run on an instrument, on whichever channel, or a reading taken with it. */
  async lotsOfInstrument(instrumentId: number, transaction: Transaction): Promise<number[]> {
    const rows = await this.session.rows<{ lotId: number }>(
      `SELECT lotId FROM runs WHERE instrumentId = :instrumentId
        UNION SELECT lotId FROM readings WHERE instrumentId = :instrumentId
        UNION SELECT h.lotId FROM hand_logs h JOIN bench_runs r ON r.id = h.benchRunId
              JOIN channels c ON c.id = r.channelId WHERE c.instrumentId = :instrumentId`,
      { type: QueryTypes.SELECT, replacements: { instrumentId }, transaction },
    );
    return rows.map((row) => row.lotId);
  }

  /** Lots with a run or a hand log on one of these channels whose cells stand by it. */
  async lotsOf(channelIds: number[], transaction: Transaction): Promise<number[]> {
    if (channelIds.length === 0) return [];
    const rows = await this.session.rows<{ lotId: number }>(
      `SELECT lotId FROM runs WHERE channelId IN (:channelIds)
        UNION SELECT h.lotId FROM hand_logs h JOIN bench_runs r ON r.id = h.benchRunId
              WHERE r.channelId IN (:channelIds)`,
      { type: QueryTypes.SELECT, replacements: { channelIds }, transaction },
    );
    return rows.map((row) => row.lotId);
  }
}
