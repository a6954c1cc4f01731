import { DataTypes, type QueryInterface, QueryTypes } from 'sequelize';
import { json, optional, reference, required } from './columns';

/** What standings held of single claim items, now a row each. */
const MOVED = [
  'capacityFigureId',
  'capacityAh',
  'capacityU',
  'capacityBound',
  'held',
  'comparable',
  'capacityVerdict',
  'capacityProbability',
  'acFigureId',
  'acMohm',
  'acU',
  'acVerdict',
  'acProbability',
];

/** Earlier verdicts, so that what changes when all is judged again can be told. */
const CARRIED_OVER = [
  `SELECT cellId, lotId, 'capacity',
          CASE WHEN capacityAh IS NULL THEN 'waitingFor' WHEN held IS NOT NULL THEN 'held'
               WHEN comparable = 0 THEN 'notComparable' ELSE COALESCE(capacityVerdict, 'notClaimed') END,
          capacityAh, capacityU / 2, capacityBound, NULL, NULL, capacityProbability, capacityFigureId,
          JSON_OBJECT('differences', JSON_ARRAY(), 'corrections', JSON_ARRAY(),
                      'why', IF(held IS NULL, JSON_ARRAY(), JSON_ARRAY(held)))
     FROM standings`,
  `SELECT cellId, lotId, 'acResistance',
          COALESCE(acVerdict, IF(acMohm IS NULL, 'waitingFor', 'notClaimed')),
          acMohm, acU / 2, IF(acMohm IS NULL, NULL, 'exact'), NULL, NULL, acProbability, acFigureId,
          JSON_OBJECT('differences', JSON_ARRAY(), 'corrections', JSON_ARRAY(), 'why', JSON_ARRAY())
     FROM standings`,
];

/** A row for every claimed item of every cell. */
export async function up(queryInterface: QueryInterface): Promise<void> {
  const { sequelize } = queryInterface;
  await queryInterface.createTable(
    'assessments',
    {
      cellId: { ...reference('cells'), primaryKey: true },
      item: { ...required(DataTypes.STRING(20)), primaryKey: true },
      lotId: reference('lots'),
      state: required(DataTypes.STRING(16)),
      value: optional(DataTypes.DOUBLE),
      standardUncertainty: optional(DataTypes.DOUBLE),
      bound: optional(DataTypes.STRING(10)),
      low: optional(DataTypes.DOUBLE),
      high: optional(DataTypes.DOUBLE),
      probability: optional(DataTypes.DOUBLE),
      figureId: reference('figures', true),
      detail: json,
    },
    { charset: 'utf8mb4', engine: 'InnoDB' },
  );
  await queryInterface.addIndex('assessments', ['lotId', 'item', 'state']);
  for (const select of CARRIED_OVER)
    await sequelize.query(
      `INSERT INTO assessments (cellId, lotId, item, state, value, standardUncertainty, bound, low, high,
                                probability, figureId, detail) ${select}`,
      { type: QueryTypes.INSERT },
    );
  const keys = await sequelize.query<{ name: string }>(
    `SELECT CONSTRAINT_NAME AS name FROM information_schema.KEY_COLUMN_USAGE
      WHERE TABLE_SCHEMA = DATABASE() AND TABLE_NAME = 'standings'
        AND REFERENCED_TABLE_NAME IS NOT NULL AND COLUMN_NAME IN (:columns)`,
    { type: QueryTypes.SELECT, replacements: { columns: MOVED } },
  );
  const drops = [
    ...keys.map(({ name }) => `DROP FOREIGN KEY \`${name}\``),
    ...MOVED.map((column) => `DROP COLUMN \`${column}\``),
  ];
  await sequelize.query(`ALTER TABLE standings ${drops.join(', ')}`, { type: QueryTypes.RAW });
  await queryInterface.addColumn('cell_arrivals', 'producedUntil', optional(DataTypes.DATEONLY));
  // Codes of all findings that were not withdrawn, made good or not, as JSON.
  await queryInterface.addColumn('cell_arrivals', 'found', {
    ...required(DataTypes.STRING(600)),
    defaultValue: '[]',
  });
  await sequelize.query("UPDATE standings SET inputHash = ''", { type: QueryTypes.UPDATE });
}
