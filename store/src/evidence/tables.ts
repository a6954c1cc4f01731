import { columnTypes as c, driverOf, QueryTypes, Table, Tables, type Transaction } from '../base';
import type * as Rows from './rows';

/** Instruments, logs, runs with their traces, readings and figures. */
export class EvidenceTables extends Tables {
  readonly instruments = new Table<Rows.InstrumentRow>(
    this.session,
    'instruments',
    {
      id: c.autoId,
      name: c.text,
      kind: c.text,
      serial: c.text,
      accuracy: c.long,
      calibratedOn: c.day,
      dueOn: c.day,
      version: c.version,
    },
    ['accuracy'],
  );
  readonly logFiles = new Table<Rows.LogFileRow>(this.session, 'log_files', {
    id: c.autoId,
    sha256: c.text,
    name: c.text,
    bytes: c.whole,
    lotId: c.whole,
    personId: c.whole,
    at: c.moment,
  });
  readonly runs = new Table<Rows.RunRow>(
    this.session,
    'runs',
    {
      id: c.autoId,
      cellId: c.whole,
      lotId: c.whole,
      logFileId: c.whole,
      instrumentId: c.whole,
      channelId: c.whole,
      ambientC: c.real,
      clamping: c.text,
      personId: c.whole,
      rows: c.whole,
      durationS: c.real,
      startedAt: c.moment,
      leadMohm: c.real,
      leadUncertaintyMohm: c.real,
      summary: c.long,
      inputHash: c.text,
      curve: c.bytes,
      createdAt: c.moment,
    },
    ['summary'],
  );
  readonly traceBlocks = new Table<Rows.TraceBlockRow>(this.session, 'trace_blocks', {
    runId: c.ownId,
    columnName: c.ownText,
    blockIndex: c.ownId,
    payload: c.bytes,
  });
  readonly readings = new Table<Rows.ReadingRow>(
    this.session,
    'readings',
    {
      id: c.autoId,
      cellId: c.whole,
      lotId: c.whole,
      kind: c.text,
      value: c.real,
      decimals: c.whole,
      repeats: c.long,
      probe: c.text,
      purpose: c.text,
      temperatureC: c.real,
      instrumentId: c.whole,
      handLogId: c.whole,
      clientKey: c.text,
      keptDespite: c.text,
      personId: c.whole,
      at: c.moment,
    },
    ['repeats'],
  );
  readonly figures = new Table<Rows.FigureRow>(
    this.session,
    'figures',
    {
      id: c.autoId,
      cellId: c.whole,
      lotId: c.whole,
      runId: c.whole,
      readingId: c.whole,
      quantity: c.text,
      cutoffV: c.real,
      value: c.real,
      unit: c.text,
      standardUncertainty: c.real,
      bound: c.text,
      method: c.text,
      methodVersion: c.whole,
      inputHash: c.text,
      detail: c.long,
    },
    ['detail'],
  );

  /** The newest reading of each kind for the cells of a lot. */
  async latestReadings(
    lotId: number,
    cellIds: number[] | null,
    transaction?: Transaction,
  ): Promise<Rows.ReadingRow[]> {
    if (cellIds?.length === 0) return [];
    const rows = await this.session.rows<Rows.ReadingRow & { repeats: unknown }>(
      `SELECT * FROM readings WHERE id IN
        (SELECT MAX(id) FROM readings WHERE lotId = :lotId ${cellIds ? 'AND cellId IN (:cellIds)' : ''} GROUP BY cellId, kind, IF(kind = 'openCircuitVoltage', purpose, ''))`,
      { type: QueryTypes.SELECT, replacements: { lotId, cellIds }, transaction },
    );
    return rows.map((row) => ({
      ...row,
      repeats: typeof row.repeats === 'string' ? (JSON.parse(row.repeats) as number[]) : null,
    }));
  }

  /**
   * Writes blocks of a run's trace in the database's own binary form, six times as fast as text.
   * @param blocks of any number and size; the driver cuts them into packets.
   */
  async insertTraceBlocks(
    runId: number,
    blocks: Pick<Rows.TraceBlockRow, 'columnName' | 'blockIndex' | 'payload'>[],
    transaction: Transaction,
  ): Promise<void> {
    if (blocks.length === 0) return;
    await driverOf(transaction).batch(
      'INSERT INTO trace_blocks (runId, columnName, blockIndex, payload) VALUES (?, ?, ?, ?)',
      blocks.map((block) => [runId, block.columnName, block.blockIndex, block.payload]),
    );
  }

  /** Which cells of a lot something was measured of, or run. */
  async cellsWithFigures(
    lotId: number,
    cellIds: number[] | null,
    transaction?: Transaction,
  ): Promise<number[]> {
    if (cellIds?.length === 0) return [];
    const rows = await this.session.rows<{ cellId: number }>(
      `SELECT cellId FROM figures WHERE lotId = :lotId ${cellIds ? 'AND cellId IN (:cellIds)' : ''}
        UNION SELECT cellId FROM runs WHERE lotId = :lotId ${cellIds ? 'AND cellId IN (:cellIds)' : ''}`,
      { type: QueryTypes.SELECT, replacements: { lotId, cellIds }, transaction },
    );
    return rows.map((row) => row.cellId);
  }

  /**
   * Exact figures by which a log is told to be of a cell, oldest first: AC resistance and mass of the
   * cells, as far as their readings stand, steps under load and capacities of the runs.
   */
  async identityFigures(
    lotId: number,
    transaction?: Transaction,
  ): Promise<
    Pick<Rows.FigureRow, 'cellId' | 'runId' | 'quantity' | 'value' | 'standardUncertainty'>[]
  > {
    return this.session.rows(
      `SELECT f.cellId, f.runId, f.quantity, f.value, f.standardUncertainty
         FROM figures f
        WHERE f.lotId = :lotId AND f.bound = 'exact'
          AND ((f.runId IS NOT NULL AND f.quantity IN ('dcResistance1s', 'dcResistance10s', 'dcResistance30s', 'capacity'))
            OR (f.quantity IN ('acResistance', 'mass') AND f.readingId IN
                 (SELECT MAX(r.id) FROM readings r
                   WHERE r.lotId = :lotId AND r.kind IN ('acResistance', 'mass') GROUP BY r.cellId, r.kind)))
        ORDER BY f.id`,
      { type: QueryTypes.SELECT, replacements: { lotId }, transaction },
    );
  }

  /** Newest figures of each run and newest readings of each cell, without their details. */
  async latestFigures(
    lotId: number,
    cellIds: number[] | null,
    transaction?: Transaction,
  ): Promise<Omit<Rows.FigureRow, 'detail'>[]> {
    if (cellIds?.length === 0) return [];
    return this.session.rows(
      `SELECT f.id, f.cellId, f.lotId, f.runId, f.readingId, f.quantity, f.cutoffV, f.value, f.unit,
              f.standardUncertainty, f.bound, f.method, f.methodVersion, f.inputHash
         FROM figures f
         JOIN (SELECT MAX(id) AS id FROM figures WHERE lotId = :lotId ${cellIds ? 'AND cellId IN (:cellIds)' : ''}
               GROUP BY cellId, quantity, COALESCE(cutoffV, -1), COALESCE(runId, 0)) latest ON latest.id = f.id`,
      { type: QueryTypes.SELECT, replacements: { lotId, cellIds }, transaction },
    );
  }
}
