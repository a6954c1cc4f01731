import { QueryTypes, type Sequelize } from 'sequelize';
import { ArrivalTables } from './arrivals-tables';
import { BenchTables } from './bench-tables';
import { HoldTables } from './holds-tables';
import { VerdictTables } from './verdict-tables';
import { MeterTables } from './meters-tables';
import {
  driverOf,
  attempt,
  inTransaction,
  openConnection,
  type StoreSettings,
  type Transaction,
} from './connection';
import { migrate } from './migrate';
import type * as Rows from './rows';
import { columnTypes as c, Table } from './table';

/** All tables, and the few queries that are more than rows of one of them. */
export class Store {
  readonly sequelize: Sequelize;
  readonly settings;
  readonly series;
  readonly people;
  readonly signInFailures;
  readonly auditEntries;
  readonly suppliers;
  readonly cellModels;
  readonly lots;
  readonly claimItems;
  readonly cells;
  readonly instruments;
  readonly logFiles;
  readonly runs;
  readonly traceBlocks;
  readonly readings;
  readonly figures;
  readonly reports;
  readonly arrivals: ArrivalTables;
  readonly meters: MeterTables;
  readonly bench: BenchTables;
  readonly results: HoldTables;
  readonly verdicts: VerdictTables;

  constructor(settings: StoreSettings) {
    const s = openConnection(settings);
    this.sequelize = s;
    this.arrivals = new ArrivalTables(s);
    this.meters = new MeterTables(s);
    this.bench = new BenchTables(s);
    this.results = new HoldTables(s);
    this.verdicts = new VerdictTables(s);
    this.settings = new Table<Rows.SettingsRow>(
      s,
      'settings',
      {
        id: c.ownId,
        labName: c.text,
        place: c.text,
        currency: c.text,
        timeZone: c.text,
        guardFactor: c.real,
        cellPrefix: c.text,
        holdLimits: c.text,
        version: c.version,
      },
      ['holdLimits'],
    );
    this.series = new Table<Rows.SeriesRow>(s, 'series', { name: c.ownText, next: c.whole });
    this.people = new Table<Rows.PersonRow>(s, 'people', {
      id: c.autoId,
      email: c.text,
      name: c.text,
      role: c.text,
      passwordHash: c.text,
      active: c.flag,
      sessionEpoch: c.whole,
      createdAt: c.moment,
      version: c.version,
    });
    this.signInFailures = new Table<Rows.SignInFailureRow>(s, 'sign_in_failures', {
      id: c.autoId,
      email: c.text,
      at: c.moment,
    });
    this.auditEntries = new Table<Rows.AuditRow>(
      s,
      'audit_entries',
      {
        id: c.autoId,
        at: c.moment,
        personId: c.whole,
        personName: c.text,
        act: c.text,
        subjectType: c.text,
        subjectId: c.text,
        before: c.long,
        after: c.long,
        previousHash: c.text,
        hash: c.text,
      },
      ['before', 'after'],
    );
    this.suppliers = new Table<Rows.SupplierRow>(s, 'suppliers', {
      id: c.autoId,
      name: c.text,
      place: c.text,
      notes: c.long,
      createdAt: c.moment,
      version: c.version,
    });
    this.cellModels = new Table<Rows.CellModelRow>(s, 'cell_models', {
      id: c.autoId,
      name: c.text,
      chemistry: c.text,
      format: c.text,
      diameterMm: c.real,
      widthMm: c.real,
      thicknessMm: c.real,
      heightMm: c.real,
      massG: c.real,
      ratedAh: c.real,
      rateIt: c.real,
      cutoffV: c.real,
      chargeV: c.real,
      temperatureC: c.real,
      acResistanceMohm: c.real,
      maxChargeA: c.real,
      maxDischargeA: c.real,
      dcResistanceMohm: c.real,
      taperIt: c.real,
      restMinutes: c.real,
      massTolerancePct: c.real,
      sizeTolerancePct: c.real,
      terminalType: c.text,
      terminalTorqueNm: c.real,
      createdAt: c.moment,
      version: c.version,
    });
    this.lots = new Table<Rows.LotRow>(s, 'lots', {
      id: c.autoId,
      code: c.text,
      title: c.text,
      supplierId: c.whole,
      modelId: c.whole,
      orderedOn: c.day,
      arrivedOn: c.day,
      takenAs: c.text,
      orderedQuantity: c.whole,
      quantity: c.whole,
      price: c.money,
      discount: c.money,
      freight: c.money,
      duty: c.money,
      fees: c.money,
      currency: c.text,
      cancelledAt: c.moment,
      cancelReason: c.text,
      createdAt: c.moment,
      version: c.version,
    });
    this.claimItems = new Table<Rows.ClaimItemRow>(
      s,
      'claim_items',
      {
        id: c.autoId,
        lotId: c.whole,
        kind: c.text,
        value: c.real,
        unit: c.text,
        text: c.text,
        conditions: c.long,
        version: c.version,
      },
      ['conditions'],
    );
    this.cells = new Table<Rows.CellRow>(s, 'cells', {
      id: c.autoId,
      lotId: c.whole,
      position: c.whole,
      number: c.text,
      label: c.text,
      box: c.text,
      packId: c.whole,
      groupIndex: c.whole,
      harvest: c.text,
      controlSince: c.day,
      retightenedAt: c.moment,
      version: c.version,
    });
    this.instruments = new Table<Rows.InstrumentRow>(
      s,
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
    this.logFiles = new Table<Rows.LogFileRow>(s, 'log_files', {
      id: c.autoId,
      sha256: c.text,
      name: c.text,
      bytes: c.whole,
      lotId: c.whole,
      personId: c.whole,
      at: c.moment,
    });
    this.runs = new Table<Rows.RunRow>(
      s,
      'runs',
      {
        id: c.autoId,
        cellId: c.whole,
        lotId: c.whole,
        logFileId: c.whole,
        instrumentId: c.whole,
        channelId: c.whole,
        ambientC: c.real,
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
    this.traceBlocks = new Table<Rows.TraceBlockRow>(s, 'trace_blocks', {
      runId: c.ownId,
      columnName: c.ownText,
      blockIndex: c.ownId,
      payload: c.bytes,
    });
    this.readings = new Table<Rows.ReadingRow>(
      s,
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
        instrumentId: c.whole,
        clientKey: c.text,
        keptDespite: c.text,
        personId: c.whole,
        at: c.moment,
      },
      ['repeats'],
    );
    this.figures = new Table<Rows.FigureRow>(
      s,
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
    this.reports = new Table<Rows.ReportRow>(s, 'reports', {
      id: c.autoId,
      number: c.text,
      lotId: c.whole,
      customer: c.text,
      snapshot: c.long,
      sha256: c.text,
      pdf: c.bytes,
      personId: c.whole,
      createdAt: c.moment,
    });
  }

  migrate(): Promise<string[]> {
    return migrate(this.sequelize);
  }

  /** Runs work inside a transaction so that its failure undoes it alone. */
  attempt<T>(transaction: Transaction, work: (inner: Transaction) => Promise<T>) {
    return attempt(this.sequelize, transaction, work);
  }

  transaction<T>(work: (transaction: Transaction) => Promise<T>): Promise<T> {
    return inTransaction(this.sequelize, work);
  }

  close(): Promise<void> {
    return this.sequelize.close();
  }

  /** Takes `count` numbers of a series; two takers never get the same. @returns the first. */
  async takeNumbers(name: string, count: number, transaction: Transaction): Promise<number> {
    await this.sequelize.query('INSERT IGNORE INTO series (name, next) VALUES (:name, 1)', {
      replacements: { name },
      type: QueryTypes.INSERT,
      transaction,
    });
    const row = await this.series.one({ name }, { transaction, forUpdate: true });
    await this.series.update({ next: row!.next + count }, { name }, transaction);
    return row!.next;
  }

  /** Locks the end of the audit chain until the transaction ends. */
  async lockAuditHead(transaction: Transaction): Promise<string> {
    const rows = await this.sequelize.query<{ hash: string }>(
      'SELECT hash FROM audit_head WHERE id = 1 FOR UPDATE',
      { type: QueryTypes.SELECT, transaction },
    );
    return rows[0]!.hash;
  }

  async moveAuditHead(hash: string, transaction: Transaction): Promise<void> {
    await this.sequelize.query('UPDATE audit_head SET hash = :hash WHERE id = 1', {
      replacements: { hash },
      type: QueryTypes.UPDATE,
      transaction,
    });
  }

  /** The newest reading of each kind for the cells of a lot. */
  async latestReadings(
    lotId: number,
    cellIds: number[] | null,
    transaction?: Transaction,
  ): Promise<Rows.ReadingRow[]> {
    if (cellIds?.length === 0) return [];
    const rows = await this.sequelize.query<Rows.ReadingRow & { repeats: unknown }>(
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
    const rows = await this.sequelize.query<{ cellId: number }>(
      `SELECT cellId FROM figures WHERE lotId = :lotId ${cellIds ? 'AND cellId IN (:cellIds)' : ''}
        UNION SELECT cellId FROM runs WHERE lotId = :lotId ${cellIds ? 'AND cellId IN (:cellIds)' : ''}`,
      { type: QueryTypes.SELECT, replacements: { lotId, cellIds }, transaction },
    );
    return rows.map((row) => row.cellId);
  }

  /** Newest figures of each run and newest readings of each cell, without their details. */
  async latestFigures(
    lotId: number,
    cellIds: number[] | null,
    transaction?: Transaction,
  ): Promise<Omit<Rows.FigureRow, 'detail'>[]> {
    if (cellIds?.length === 0) return [];
    return this.sequelize.query(
      `SELECT f.id, f.cellId, f.lotId, f.runId, f.readingId, f.quantity, f.cutoffV, f.value, f.unit,
              f.standardUncertainty, f.bound, f.method, f.methodVersion, f.inputHash
         FROM figures f
         JOIN (SELECT MAX(id) AS id FROM figures WHERE lotId = :lotId ${cellIds ? 'AND cellId IN (:cellIds)' : ''}
               GROUP BY cellId, quantity, COALESCE(cutoffV, -1), COALESCE(runId, 0)) latest ON latest.id = f.id`,
      { type: QueryTypes.SELECT, replacements: { lotId, cellIds }, transaction },
    );
  }
}
