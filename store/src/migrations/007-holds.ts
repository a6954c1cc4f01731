import { DataTypes, type QueryInterface, QueryTypes } from 'sequelize';
import {
  at,
  id,
  makeAppendOnly,
  optional,
  reference,
  required,
  type Tables,
  version,
} from './columns';

const TABLES: Tables = [
  [
    'result_holds',
    {
      id,
      lotId: reference('lots'),
      cellId: reference('cells'),
      runId: reference('runs', true),
      readingId: reference('readings', true),
      rule: required(DataTypes.STRING(24)),
      text: required(DataTypes.STRING(600)),
      personId: reference('people', true),
      at,
      liftedAt: optional(DataTypes.DATE(3)),
      liftedBy: reference('people', true),
      liftReason: optional(DataTypes.STRING(400)),
      version,
    },
  ],
  [
    'run_moves',
    {
      id,
      runId: reference('runs'),
      fromLotId: reference('lots'),
      fromCellId: reference('cells'),
      toLotId: reference('lots'),
      toCellId: reference('cells'),
      reason: required(DataTypes.STRING(400)),
      personId: reference('people'),
      at,
    },
  ],
];

/** Results that may not reach a verdict by themselves, and runs given to another cell. */
export async function up(queryInterface: QueryInterface): Promise<void> {
  for (const [name, columns] of TABLES)
    await queryInterface.createTable(name, columns, {
      charset: 'utf8mb4',
      engine: 'InnoDB',
    });
  await queryInterface.addIndex('result_holds', ['runId', 'rule'], { unique: true });
  await queryInterface.addIndex('result_holds', ['readingId', 'rule'], { unique: true });
  await queryInterface.addIndex('result_holds', ['lotId', 'cellId']);
  await queryInterface.addIndex('run_moves', ['fromCellId']);
  await queryInterface.addIndex('run_moves', ['toCellId']);
  await queryInterface.addColumn('settings', 'holdLimits', {
    type: DataTypes.TEXT,
    allowNull: true,
  });
  await makeAppendOnly(queryInterface, ['run_moves']);
  // Where cells stand is made new by today’s rules.
  await queryInterface.sequelize.query("UPDATE standings SET inputHash = ''", {
    type: QueryTypes.UPDATE,
  });
}
