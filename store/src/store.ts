import { ArrivalTables } from './arrivals';
import {
  attempt,
  inTransaction,
  openConnection,
  QueryTypes,
  Session,
  type StoreSettings,
  Tables,
  type Transaction,
} from './base';
import { BenchTables, HandTables } from './bench';
import { DisputeTables } from './disputes';
import { EvidenceTables, MeterTables, StringTables } from './evidence';
import { LotTables, SupplierTables } from './lots';
import { migrate, unknownMigrations } from './migrate';
import { HouseTables } from './people';
import { ReportTables } from './reports';
import { RestTables } from './resting';
import { GradeTables, HoldTables, VerdictTables } from './verdicts';

/** All tables, stage by stage; what every stage needs is at hand by its own name. */
export class Store extends Tables {
  readonly arrivals: ArrivalTables;
  readonly bench: BenchTables;
  readonly hand: HandTables;
  readonly evidence: EvidenceTables;
  readonly meters: MeterTables;
  readonly strings: StringTables;
  readonly resting: RestTables;
  readonly results: HoldTables;
  readonly verdicts: VerdictTables;
  readonly grading: GradeTables;
  readonly supplying: SupplierTables;
  readonly disputing: DisputeTables;
  readonly settings;
  readonly reportMarks;
  readonly series;
  readonly people;
  readonly columnWidths;
  readonly doneActs;
  readonly signInFailures;
  readonly signInPlaces;
  readonly auditEntries;
  readonly suppliers;
  readonly cellModels;
  readonly lots;
  readonly claimItems;
  readonly cells;
  readonly books;
  readonly instruments;
  readonly logFiles;
  readonly runs;
  readonly traceBlocks;
  readonly readings;
  readonly figures;
  readonly reports;
  readonly reportPdfs;

  constructor(settings: StoreSettings) {
    const s = new Session(openConnection(settings));
    super(s);
    this.arrivals = new ArrivalTables(s);
    this.bench = new BenchTables(s);
    this.hand = new HandTables(s);
    this.evidence = new EvidenceTables(s);
    this.meters = new MeterTables(s);
    this.strings = new StringTables(s);
    this.resting = new RestTables(s);
    this.results = new HoldTables(s);
    this.verdicts = new VerdictTables(s);
    this.grading = new GradeTables(s);
    this.supplying = new SupplierTables(s);
    this.disputing = new DisputeTables(s);
    const house = new HouseTables(s);
    const lots = new LotTables(s);
    this.settings = house.settings;
    this.reportMarks = house.reportMarks;
    this.series = house.series;
    this.people = house.people;
    this.columnWidths = house.columnWidths;
    this.doneActs = house.doneActs;
    this.signInFailures = house.signInFailures;
    this.signInPlaces = house.signInPlaces;
    this.auditEntries = house.auditEntries;
    this.suppliers = lots.suppliers;
    this.cellModels = lots.cellModels;
    this.lots = lots.lots;
    this.claimItems = lots.claimItems;
    this.cells = lots.cells;
    this.books = lots.books;
    this.instruments = this.evidence.instruments;
    this.logFiles = this.evidence.logFiles;
    this.runs = this.evidence.runs;
    this.traceBlocks = this.evidence.traceBlocks;
    this.readings = this.evidence.readings;
    this.figures = this.evidence.figures;
    const { reports, pdfs } = new ReportTables(s);
    this.reports = reports;
    this.reportPdfs = pdfs;
  }

  migrate(): Promise<string[]> {
    return migrate(this.session.sequelize);
  }

  /** Migrations of a newer version this database has seen. */
  unknownMigrations(): Promise<string[]> {
    return unknownMigrations(this.session.sequelize);
  }

  /** Runs work inside a transaction so that its failure undoes it alone. */
  attempt<T>(transaction: Transaction, work: (inner: Transaction) => Promise<T>) {
    return attempt(this.session.sequelize, transaction, work);
  }

  /** Runs work in one transaction; inside one already, as part of it. */
  transaction<T>(work: (transaction: Transaction) => Promise<T>): Promise<T> {
    const { transaction } = this.session;
    if (transaction) return work(transaction);
    return inTransaction(this.session.sequelize, work);
  }

  /** Asks whether the database answers. @throws where it does not. */
  answers(): Promise<void> {
    return this.session.sequelize.authenticate();
  }

  close(): Promise<void> {
    return this.session.sequelize.close();
  }

  /** Takes `count` numbers of a series; two takers never get the same. @returns the first. */
  async takeNumbers(name: string, count: number, transaction: Transaction): Promise<number> {
    await this.session.run('INSERT IGNORE INTO series (name, next) VALUES (:name, 1)', {
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
    const rows = await this.session.rows<{ hash: string }>(
      'SELECT hash FROM audit_head WHERE id = 1 FOR UPDATE',
      { type: QueryTypes.SELECT, transaction },
    );
    return rows[0]!.hash;
  }

  async moveAuditHead(hash: string, transaction: Transaction): Promise<void> {
    await this.session.run('UPDATE audit_head SET hash = :hash WHERE id = 1', {
      replacements: { hash },
      type: QueryTypes.UPDATE,
      transaction,
    });
  }
}
