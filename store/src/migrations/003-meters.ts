import {
  type ModelAttributeColumnOptions,
  DataTypes,
  type QueryInterface,
  QueryTypes,
} from 'sequelize';
import {
  at,
  hash,
  id,
  json,
  makeAppendOnly,
  optional,
  reference,
  required,
  type Tables,
  version,
} from './columns';

const TABLES: Tables = [
  [
    'channels',
    {
      id,
      instrumentId: reference('instruments'),
      name: required(DataTypes.STRING(40)),
      calibratedOn: optional(DataTypes.DATEONLY),
      dueOn: optional(DataTypes.DATEONLY),
      voltageTable: json,
      version,
    },
  ],
  [
    'channel_effects',
    {
      channelId: { ...reference('channels'), primaryKey: true },
      effect: optional(DataTypes.TEXT),
      heldAfterRunId: optional(DataTypes.INTEGER.UNSIGNED),
      heldReason: optional(DataTypes.STRING(255)),
      updatedAt: at,
    },
  ],
  [
    'model_factors',
    {
      modelId: { ...reference('cell_models'), primaryKey: true },
      factors: json,
      updatedAt: at,
    },
  ],
  [
    'channel_looks',
    {
      id,
      channelId: reference('channels'),
      upToRunId: required(DataTypes.INTEGER.UNSIGNED),
      note: required(DataTypes.STRING(400)),
      personId: reference('people'),
      at,
    },
  ],
  [
    'meter_comparisons',
    {
      id,
      title: required(DataTypes.STRING(120)),
      unit: required(DataTypes.STRING(10)),
      readings: json,
      personId: reference('people'),
      at,
    },
  ],
  [
    'log_mappings',
    {
      id,
      shape: hash,
      mapping: json,
      fileName: required(DataTypes.STRING(255)),
      personId: reference('people'),
      at,
    },
  ],
];

const COLUMNS: [string, Record<string, ModelAttributeColumnOptions>][] = [
  [
    'runs',
    {
      channelId: reference('channels', true),
      ambientC: optional(DataTypes.DOUBLE),
    },
  ],
  ['cells', { controlSince: optional(DataTypes.DATEONLY) }],
  [
    'standings',
    {
      capacityRawFigureId: optional(DataTypes.INTEGER.UNSIGNED),
      capacityRawAh: optional(DataTypes.DOUBLE),
      held: optional(DataTypes.STRING(255)),
    },
  ],
];

/** Lays channels and what is known of them; every tester that is here gets its first channel. */
export async function up(queryInterface: QueryInterface): Promise<void> {
  for (const [name, columns] of TABLES)
    await queryInterface.createTable(name, columns, {
      charset: 'utf8mb4',
      engine: 'InnoDB',
    });
  for (const [table, columns] of COLUMNS)
    for (const [name, column] of Object.entries(columns))
      await queryInterface.addColumn(table, name, column);
  await queryInterface.addIndex('channels', ['instrumentId', 'name'], { unique: true });
  await queryInterface.addIndex('runs', ['channelId', 'id']);
  await queryInterface.addIndex('log_mappings', ['shape', 'id']);
  await queryInterface.addIndex('cells', ['controlSince']);
  await makeAppendOnly(queryInterface, ['channel_looks', 'meter_comparisons', 'log_mappings']);
  const run = (sql: string) => queryInterface.sequelize.query(sql, { type: QueryTypes.RAW });
  await run(
    `INSERT INTO channels (instrumentId, name, calibratedOn, dueOn, voltageTable, version)
     SELECT id, '1', calibratedOn, dueOn, '[]', 1 FROM instruments WHERE kind = 'tester'`,
  );
  await run(
    `UPDATE runs JOIN channels ON channels.instrumentId = runs.instrumentId SET runs.channelId = channels.id`,
  );
  await run(
    'UPDATE standings SET capacityRawFigureId = capacityFigureId, capacityRawAh = capacityAh',
  );
}
