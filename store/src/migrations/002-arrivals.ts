import {
  type ModelAttributeColumnOptions,
  DataTypes,
  type QueryInterface,
  QueryTypes,
} from 'sequelize';
import {
  at,
  id,
  json,
  makeAppendOnly,
  optional,
  reference,
  required,
  type Tables,
  version,
} from './columns';

const NEW_COLUMNS: [string, Record<string, ModelAttributeColumnOptions>][] = [
  [
    'cell_models',
    {
      terminalType: optional(DataTypes.STRING(30)),
      ...Object.fromEntries(
        [
          'terminalTorqueNm',
          'taperIt',
          'restMinutes',
          'massTolerancePct',
          'sizeTolerancePct',
          'dcResistanceMohm',
        ].map((name) => [name, optional(DataTypes.DOUBLE)]),
      ),
    },
  ],
  [
    'lots',
    {
      takenAs: { ...required(DataTypes.STRING(10)), defaultValue: 'cells' },
      orderedQuantity: optional(DataTypes.INTEGER.UNSIGNED),
      discount: optional(DataTypes.DECIMAL(14, 2)),
      freight: optional(DataTypes.DECIMAL(14, 2)),
      duty: optional(DataTypes.DECIMAL(14, 2)),
      fees: optional(DataTypes.DECIMAL(14, 2)),
      cancelledAt: optional(DataTypes.DATE(3)),
      cancelReason: optional(DataTypes.STRING(400)),
    },
  ],
  [
    'cells',
    {
      box: optional(DataTypes.STRING(40)),
      groupIndex: optional(DataTypes.INTEGER.UNSIGNED),
      harvest: optional(DataTypes.STRING(20)),
    },
  ],
];

const TABLES: Tables = [
  [
    'chemistry_profiles',
    {
      id,
      chemistry: required(DataTypes.STRING(20)),
      profile: json,
      reason: required(DataTypes.STRING(400)),
      personId: reference('people'),
      at,
    },
  ],
  ['offers', { id, lotId: reference('lots'), text: json, personId: reference('people'), at }],
  [
    'photos',
    {
      id,
      lotId: reference('lots'),
      subjectType: required(DataTypes.STRING(20)),
      subjectId: required(DataTypes.INTEGER.UNSIGNED),
      name: required(DataTypes.STRING(255)),
      sha256: required(DataTypes.CHAR(64)),
      width: required(DataTypes.INTEGER.UNSIGNED),
      height: required(DataTypes.INTEGER.UNSIGNED),
      image: required(DataTypes.BLOB('long')),
      thumb: required(DataTypes.BLOB('medium')),
      personId: reference('people'),
      at,
    },
  ],
  ['client_batches', { id: { type: DataTypes.CHAR(36), primaryKey: true }, at }],
  [
    'receiving_entries',
    {
      id,
      lotId: reference('lots'),
      field: required(DataTypes.STRING(40)),
      value: json,
      personId: reference('people'),
      at,
    },
  ],
  [
    'inspection_entries',
    {
      id,
      lotId: reference('lots'),
      cellId: reference('cells'),
      act: required(DataTypes.STRING(20)),
      code: optional(DataTypes.STRING(30)),
      findingId: reference('inspection_entries', true),
      note: optional(DataTypes.STRING(400)),
      before: optional(DataTypes.STRING(400)),
      personId: reference('people'),
      at,
    },
  ],
  [
    'code_scans',
    {
      id,
      lotId: reference('lots'),
      cellId: reference('cells'),
      code: required(DataTypes.STRING(60)),
      outcome: required(DataTypes.STRING(20)),
      personId: reference('people'),
      at,
    },
  ],
  [
    'code_templates',
    {
      id,
      name: { ...required(DataTypes.STRING(80)), unique: true },
      pattern: required(DataTypes.STRING(120)),
      active: required(DataTypes.BOOLEAN),
      version,
    },
  ],
  [
    'maker_codes',
    {
      id,
      code: { ...required(DataTypes.STRING(20)), unique: true },
      name: required(DataTypes.STRING(120)),
      version,
    },
  ],
  [
    'recovery_entries',
    {
      id,
      lotId: reference('lots'),
      cellId: reference('cells'),
      act: required(DataTypes.STRING(20)),
      protocol: required(DataTypes.STRING(40)),
      protocolVersion: required(DataTypes.INTEGER.UNSIGNED),
      mostA: optional(DataTypes.DOUBLE),
      minutes: optional(DataTypes.DOUBLE),
      temperatureC: optional(DataTypes.DOUBLE),
      note: optional(DataTypes.STRING(400)),
      personId: reference('people'),
      at,
    },
  ],
  [
    'packs',
    {
      id,
      lotId: reference('lots'),
      number: { ...required(DataTypes.STRING(20)), unique: true },
      label: optional(DataTypes.STRING(120)),
      voltageV: required(DataTypes.DOUBLE),
      capacityAh: optional(DataTypes.DOUBLE),
      energyWh: optional(DataTypes.DOUBLE),
      chemistry: optional(DataTypes.STRING(20)),
      series: optional(DataTypes.INTEGER.UNSIGNED),
      parallel: optional(DataTypes.INTEGER.UNSIGNED),
      cellAh: optional(DataTypes.DOUBLE),
      minutes: optional(DataTypes.DOUBLE),
      openedAt: optional(DataTypes.DATE(3)),
      openedBy: reference('people', true),
      version,
    },
  ],
  [
    'acknowledgements',
    {
      id,
      personId: reference('people'),
      kind: required(DataTypes.STRING(40)),
      day: required(DataTypes.DATEONLY),
      at,
    },
  ],
  [
    'sampling_plans',
    {
      id,
      lotId: reference('lots'),
      method: required(DataTypes.STRING(20)),
      parameters: json,
      lotSize: required(DataTypes.INTEGER.UNSIGNED),
      sampleSize: required(DataTypes.INTEGER.UNSIGNED),
      acceptance: required(DataTypes.INTEGER.UNSIGNED),
      seed: required(DataTypes.INTEGER.UNSIGNED),
      cellIds: json,
      strata: json,
      reason: optional(DataTypes.STRING(400)),
      personId: reference('people'),
      at,
    },
  ],
  [
    'cell_arrivals',
    {
      cellId: { ...reference('cells'), primaryKey: true },
      lotId: reference('lots'),
      inspected: required(DataTypes.BOOLEAN),
      worst: optional(DataTypes.STRING(10)),
      findings: required(DataTypes.STRING(400)),
      graded: optional(DataTypes.STRING(10)),
      producedOn: optional(DataTypes.DATEONLY),
      firstV: optional(DataTypes.DOUBLE),
      lowestV: optional(DataTypes.DOUBLE),
      newestV: optional(DataTypes.DOUBLE),
      triage: optional(DataTypes.STRING(20)),
      triageReason: optional(DataTypes.STRING(255)),
      gate: required(DataTypes.STRING(20)),
    },
  ],
];

const INDEXES: [string, string[], boolean?][] = [
  ['cells', ['label']],
  ['chemistry_profiles', ['chemistry', 'id']],
  ['photos', ['lotId', 'subjectType', 'subjectId']],
  ['receiving_entries', ['lotId', 'field', 'id']],
  ['inspection_entries', ['lotId', 'cellId']],
  ['code_scans', ['lotId', 'id']],
  ['recovery_entries', ['lotId', 'cellId']],
  ['acknowledgements', ['personId', 'kind', 'day'], true],
  ['sampling_plans', ['lotId', 'id']],
  ['cell_arrivals', ['lotId', 'gate']],
];

const APPEND_ONLY = [
  'chemistry_profiles',
  'offers',
  'photos',
  'receiving_entries',
  'inspection_entries',
  'code_scans',
  'recovery_entries',
  'acknowledgements',
  'sampling_plans',
];

/** Lays what arrivals need, and gives every cell that is here its place among them. */
export async function up(queryInterface: QueryInterface): Promise<void> {
  for (const [table, columns] of NEW_COLUMNS)
    for (const [name, column] of Object.entries(columns))
      await queryInterface.addColumn(table, name, column);
  for (const [name, columns] of TABLES)
    await queryInterface.createTable(name, columns, {
      charset: 'utf8mb4',
      engine: 'InnoDB',
    });
  await queryInterface.addColumn('cells', 'packId', reference('packs', true));
  for (const [table, fields, unique] of INDEXES)
    await queryInterface.addIndex(table, fields, { unique: unique ?? false });
  await makeAppendOnly(queryInterface, APPEND_ONLY);
  const run = (sql: string) => queryInterface.sequelize.query(sql, { type: QueryTypes.RAW });
  await run('UPDATE lots SET orderedQuantity = quantity');
  await run(
    `INSERT INTO cell_arrivals (cellId, lotId, inspected, findings, gate)
     SELECT id, lotId, 0, '[]', 'open' FROM cells`,
  );
}
