import type { Sequelize } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';
import { up as firstTables } from './migrations/001-first-tables';
import { up as arrivals } from './migrations/002-arrivals';
import { up as meters } from './migrations/003-meters';
import { up as evidence } from './migrations/004-evidence';
import { up as bench } from './migrations/005-bench';
import { up as strings } from './migrations/006-strings';
import { up as holds } from './migrations/007-holds';
import { up as budgetKinds } from './migrations/008-budget-kinds';
import { up as assessments } from './migrations/009-assessments';
import { up as runInputs } from './migrations/010-run-inputs';
import { up as runChemistry } from './migrations/011-run-chemistry';
import { up as readingPurpose } from './migrations/012-reading-purpose';
import { up as setAside } from './migrations/013-set-aside';
import { up as fitOfPairs } from './migrations/014-fit-of-pairs';
import { up as accounts } from './migrations/015-accounts';
import { up as lotKeys } from './migrations/016-lot-keys';
import { up as lotMoves } from './migrations/017-lot-moves';
import { up as mending } from './migrations/018-mending';
import { up as reportWords } from './migrations/019-report-words';
import { up as foundByReading } from './migrations/020-found-by-reading';
import { up as resting } from './migrations/021-resting';
import { up as handLogs } from './migrations/022-hand-logs';
import { up as restProtocols } from './migrations/023-rest-protocols';
import { up as watchedStrings } from './migrations/024-watched-strings';
import { up as lotBooks } from './migrations/025-lot-books';
import { up as gradeSchemes } from './migrations/026-grade-schemes';
import { up as suppliersAndBooks } from './migrations/027-suppliers-and-books';
import { up as disputes } from './migrations/028-disputes';
import { up as columnWidths } from './migrations/029-column-widths';
import { up as samplingResults } from './migrations/030-sampling-results';
import { up as clamping } from './migrations/031-clamping';
import { up as swappedCells } from './migrations/032-swapped-cells';
import { up as room } from './migrations/033-room';
import { up as doneActs } from './migrations/034-done-acts';
import { up as reportPdfs } from './migrations/035-report-pdfs';
import { up as foldTroubles } from './migrations/036-fold-troubles';
import { up as disputeSteps } from './migrations/037-dispute-steps';
import { up as disputeGrounds } from './migrations/038-dispute-grounds';
import { up as earlierCurrency } from './migrations/039-earlier-currency';

/** All migrations, in their order. */
const migrationsOf = (sequelize: Sequelize) => [
  { name: '001-first-tables', up: () => firstTables(sequelize.getQueryInterface()) },
  { name: '002-arrivals', up: () => arrivals(sequelize.getQueryInterface()) },
  { name: '003-meters', up: () => meters(sequelize.getQueryInterface()) },
  { name: '004-evidence', up: () => evidence(sequelize.getQueryInterface()) },
  { name: '005-bench', up: () => bench(sequelize.getQueryInterface()) },
  { name: '006-strings', up: () => strings(sequelize.getQueryInterface()) },
  { name: '007-holds', up: () => holds(sequelize.getQueryInterface()) },
  { name: '008-budget-kinds', up: () => budgetKinds(sequelize.getQueryInterface()) },
  { name: '009-assessments', up: () => assessments(sequelize.getQueryInterface()) },
  { name: '010-run-inputs', up: () => runInputs(sequelize.getQueryInterface()) },
  { name: '011-run-chemistry', up: () => runChemistry(sequelize.getQueryInterface()) },
  { name: '012-reading-purpose', up: () => readingPurpose(sequelize.getQueryInterface()) },
  { name: '013-set-aside', up: () => setAside(sequelize.getQueryInterface()) },
  { name: '014-fit-of-pairs', up: () => fitOfPairs(sequelize.getQueryInterface()) },
  { name: '015-accounts', up: () => accounts(sequelize.getQueryInterface()) },
  { name: '016-lot-keys', up: () => lotKeys(sequelize.getQueryInterface()) },
  { name: '017-lot-moves', up: () => lotMoves(sequelize.getQueryInterface()) },
  { name: '018-mending', up: () => mending(sequelize.getQueryInterface()) },
  { name: '019-report-words', up: () => reportWords(sequelize.getQueryInterface()) },
  {
    name: '020-found-by-reading',
    up: () => foundByReading(sequelize.getQueryInterface()),
  },
  { name: '021-resting', up: () => resting(sequelize.getQueryInterface()) },
  { name: '022-hand-logs', up: () => handLogs(sequelize.getQueryInterface()) },
  {
    name: '023-rest-protocols',
    up: () => restProtocols(sequelize.getQueryInterface()),
  },
  {
    name: '024-watched-strings',
    up: () => watchedStrings(sequelize.getQueryInterface()),
  },
  { name: '025-lot-books', up: () => lotBooks(sequelize.getQueryInterface()) },
  { name: '026-grade-schemes', up: () => gradeSchemes(sequelize.getQueryInterface()) },
  {
    name: '027-suppliers-and-books',
    up: () => suppliersAndBooks(sequelize.getQueryInterface()),
  },
  { name: '028-disputes', up: () => disputes(sequelize.getQueryInterface()) },
  { name: '029-column-widths', up: () => columnWidths(sequelize.getQueryInterface()) },
  { name: '030-sampling-results', up: () => samplingResults(sequelize.getQueryInterface()) },
  { name: '031-clamping', up: () => clamping(sequelize.getQueryInterface()) },
  { name: '032-swapped-cells', up: () => swappedCells(sequelize.getQueryInterface()) },
  { name: '033-room', up: () => room(sequelize.getQueryInterface()) },
  { name: '034-done-acts', up: () => doneActs(sequelize.getQueryInterface()) },
  { name: '035-report-pdfs', up: () => reportPdfs(sequelize.getQueryInterface()) },
  { name: '036-fold-troubles', up: () => foldTroubles(sequelize.getQueryInterface()) },
  { name: '037-dispute-steps', up: () => disputeSteps(sequelize.getQueryInterface()) },
  { name: '038-dispute-grounds', up: () => disputeGrounds(sequelize.getQueryInterface()) },
  { name: '039-earlier-currency', up: () => earlierCurrency(sequelize.getQueryInterface()) },
];

const umzugOf = (sequelize: Sequelize) =>
  new Umzug({
    migrations: migrationsOf(sequelize),
    context: sequelize,
    storage: new SequelizeStorage({ sequelize, tableName: 'migrations' }),
    logger: undefined,
  });

/** Brings the database to today's shape. @returns names of the migrations that ran. */
export async function migrate(sequelize: Sequelize): Promise<string[]> {
  return (await umzugOf(sequelize).up()).map((migration) => migration.name);
}

/** Migrations a database has seen that this version does not know: it was made by a newer one. */
export async function unknownMigrations(sequelize: Sequelize): Promise<string[]> {
  const known = new Set(migrationsOf(sequelize).map(({ name }) => name));
  const storage = new SequelizeStorage({ sequelize, tableName: 'migrations' });
  return (await storage.executed()).filter((name) => !known.has(name));
}
