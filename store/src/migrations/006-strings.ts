import { DataTypes, type QueryInterface } from 'sequelize';
import { at, id, json, optional, reference, required, type Tables, version } from './columns';

const maybeReal = optional(DataTypes.DOUBLE);

const TABLES: Tables = [
  [
    'string_tests',
    {
      id,
      lotId: reference('lots'),
      title: required(DataTypes.STRING(120)),
      runId: reference('runs', true),
      torqueNm: maybeReal,
      cableMm2: maybeReal,
      cableM: maybeReal,
      packAh: maybeReal,
      packAhU: maybeReal,
      balancedAh: maybeReal,
      steps: json,
      personId: reference('people'),
      createdAt: at,
      updatedAt: at,
      version,
    },
  ],
  [
    'string_test_cells',
    {
      stringTestId: { ...reference('string_tests'), primaryKey: true },
      place: { type: DataTypes.INTEGER.UNSIGNED, primaryKey: true },
      cellId: reference('cells'),
    },
  ],
];

/** Load tests of strings, and which cell stood where in them. */
export async function up(queryInterface: QueryInterface): Promise<void> {
  for (const [name, columns] of TABLES)
    await queryInterface.createTable(name, columns, {
      charset: 'utf8mb4',
      engine: 'InnoDB',
    });
  await queryInterface.addIndex('string_test_cells', ['cellId']);
  await queryInterface.addIndex('string_tests', ['runId'], { unique: true });
}
