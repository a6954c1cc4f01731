/* eslint-disable max-lines -- A migration is history: it stays as it ran. */
import { DataTypes, type QueryInterface } from 'sequelize';
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
    'settings',
    {
      id: { type: DataTypes.INTEGER.UNSIGNED, primaryKey: true },
      labName: required(DataTypes.STRING(120)),
      place: required(DataTypes.STRING(120)),
      currency: required(DataTypes.CHAR(3)),
      timeZone: required(DataTypes.STRING(60)),
      guardFactor: required(DataTypes.DOUBLE),
      cellPrefix: required(DataTypes.STRING(8)),
      version,
    },
  ],
  [
    'series',
    {
      name: { type: DataTypes.STRING(40), primaryKey: true },
      next: required(DataTypes.INTEGER.UNSIGNED),
    },
  ],
  [
    'people',
    {
      id,
      email: { ...required(DataTypes.STRING(190)), unique: true },
      name: required(DataTypes.STRING(120)),
      role: required(DataTypes.STRING(20)),
      passwordHash: required(DataTypes.STRING(255)),
      active: required(DataTypes.BOOLEAN),
      sessionEpoch: required(DataTypes.INTEGER.UNSIGNED),
      createdAt: at,
      version,
    },
  ],
  ['sign_in_failures', { id, email: required(DataTypes.STRING(190)), at }],
  [
    'audit_entries',
    {
      id,
      at,
      personId: reference('people', true),
      personName: required(DataTypes.STRING(120)),
      act: required(DataTypes.STRING(60)),
      subjectType: required(DataTypes.STRING(40)),
      subjectId: required(DataTypes.STRING(60)),
      before: json,
      after: json,
      previousHash: hash,
      hash: { ...hash, unique: true },
    },
  ],
  ['audit_head', { id: { type: DataTypes.INTEGER.UNSIGNED, primaryKey: true }, hash }],
  [
    'suppliers',
    {
      id,
      name: { ...required(DataTypes.STRING(120)), unique: true },
      place: optional(DataTypes.STRING(120)),
      notes: optional(DataTypes.TEXT),
      createdAt: at,
      version,
    },
  ],
  [
    'cell_models',
    {
      id,
      name: { ...required(DataTypes.STRING(120)), unique: true },
      chemistry: required(DataTypes.STRING(20)),
      format: required(DataTypes.STRING(20)),
      ...Object.fromEntries(
        [
          'diameterMm',
          'widthMm',
          'thicknessMm',
          'heightMm',
          'massG',
          'ratedAh',
          'rateIt',
          'cutoffV',
          'chargeV',
          'temperatureC',
          'acResistanceMohm',
          'maxChargeA',
          'maxDischargeA',
        ].map((name) => [name, optional(DataTypes.DOUBLE)]),
      ),
      createdAt: at,
      version,
    },
  ],
  [
    'lots',
    {
      id,
      code: { ...required(DataTypes.STRING(20)), unique: true },
      title: required(DataTypes.STRING(160)),
      supplierId: reference('suppliers'),
      modelId: reference('cell_models'),
      orderedOn: optional(DataTypes.DATEONLY),
      arrivedOn: optional(DataTypes.DATEONLY),
      quantity: required(DataTypes.INTEGER.UNSIGNED),
      price: optional(DataTypes.DECIMAL(14, 2)),
      currency: required(DataTypes.CHAR(3)),
      createdAt: at,
      version,
    },
  ],
  [
    'claim_items',
    {
      id,
      lotId: reference('lots'),
      kind: required(DataTypes.STRING(30)),
      value: optional(DataTypes.DOUBLE),
      unit: optional(DataTypes.STRING(20)),
      text: optional(DataTypes.STRING(400)),
      conditions: json,
      version,
    },
  ],
  [
    'cells',
    {
      id,
      lotId: reference('lots'),
      position: required(DataTypes.INTEGER.UNSIGNED),
      number: { ...required(DataTypes.STRING(20)), unique: true },
      label: optional(DataTypes.STRING(60)),
      version,
    },
  ],
  [
    'instruments',
    {
      id,
      name: { ...required(DataTypes.STRING(120)), unique: true },
      kind: required(DataTypes.STRING(20)),
      serial: optional(DataTypes.STRING(60)),
      accuracy: json,
      calibratedOn: optional(DataTypes.DATEONLY),
      dueOn: optional(DataTypes.DATEONLY),
      version,
    },
  ],
  [
    'log_files',
    {
      id,
      sha256: { ...hash, unique: true },
      name: required(DataTypes.STRING(255)),
      bytes: required(DataTypes.INTEGER.UNSIGNED),
      lotId: reference('lots'),
      personId: reference('people'),
      at,
    },
  ],
  [
    'runs',
    {
      id,
      cellId: reference('cells'),
      lotId: reference('lots'),
      logFileId: reference('log_files'),
      instrumentId: reference('instruments', true),
      personId: reference('people'),
      rows: required(DataTypes.INTEGER.UNSIGNED),
      durationS: required(DataTypes.DOUBLE),
      startedAt: optional(DataTypes.DATE(3)),
      leadMohm: optional(DataTypes.DOUBLE),
      summary: json,
      curve: required(DataTypes.BLOB('medium')),
      createdAt: at,
    },
  ],
  [
    'trace_blocks',
    {
      runId: { ...reference('runs'), primaryKey: true },
      columnName: { type: DataTypes.STRING(20), primaryKey: true },
      blockIndex: { type: DataTypes.INTEGER.UNSIGNED, primaryKey: true },
      payload: required(DataTypes.BLOB('medium')),
    },
  ],
  [
    'readings',
    {
      id,
      cellId: reference('cells'),
      lotId: reference('lots'),
      kind: required(DataTypes.STRING(30)),
      value: optional(DataTypes.DOUBLE),
      decimals: required(DataTypes.INTEGER.UNSIGNED),
      instrumentId: reference('instruments', true),
      clientKey: { ...required(DataTypes.CHAR(36)), unique: true },
      keptDespite: optional(DataTypes.STRING(255)),
      personId: reference('people'),
      at,
    },
  ],
  [
    'figures',
    {
      id,
      cellId: reference('cells'),
      lotId: reference('lots'),
      runId: reference('runs', true),
      readingId: reference('readings', true),
      quantity: required(DataTypes.STRING(30)),
      cutoffV: optional(DataTypes.DOUBLE),
      value: required(DataTypes.DOUBLE),
      unit: required(DataTypes.STRING(10)),
      standardUncertainty: optional(DataTypes.DOUBLE),
      bound: required(DataTypes.STRING(10)),
      method: required(DataTypes.STRING(60)),
      methodVersion: required(DataTypes.INTEGER.UNSIGNED),
      inputHash: hash,
      detail: json,
    },
  ],
  [
    'standings',
    {
      cellId: { ...reference('cells'), primaryKey: true },
      lotId: reference('lots'),
      capacityFigureId: reference('figures', true),
      capacityAh: optional(DataTypes.DOUBLE),
      capacityU: optional(DataTypes.DOUBLE),
      capacityBound: optional(DataTypes.STRING(10)),
      comparable: optional(DataTypes.BOOLEAN),
      capacityVerdict: optional(DataTypes.STRING(10)),
      capacityProbability: optional(DataTypes.DOUBLE),
      acFigureId: reference('figures', true),
      acMohm: optional(DataTypes.DOUBLE),
      acU: optional(DataTypes.DOUBLE),
      acVerdict: optional(DataTypes.STRING(10)),
      acProbability: optional(DataTypes.DOUBLE),
      ocvV: optional(DataTypes.DOUBLE),
      stateOfHealth: optional(DataTypes.DOUBLE),
      grade: optional(DataTypes.STRING(60)),
      detail: json,
      inputHash: hash,
      updatedAt: at,
    },
  ],
  [
    'reports',
    {
      id,
      number: { ...required(DataTypes.STRING(20)), unique: true },
      lotId: reference('lots'),
      customer: required(DataTypes.STRING(160)),
      snapshot: json,
      sha256: hash,
      pdf: required(DataTypes.BLOB('long')),
      personId: reference('people'),
      createdAt: at,
    },
  ],
];

const INDEXES: [string, string[], boolean?][] = [
  ['sign_in_failures', ['email', 'at']],
  ['audit_entries', ['subjectType', 'subjectId']],
  ['claim_items', ['lotId', 'kind'], true],
  ['cells', ['lotId', 'position'], true],
  ['readings', ['cellId', 'kind', 'id']],
  ['readings', ['lotId', 'kind']],
  ['figures', ['lotId', 'quantity']],
  ['figures', ['cellId', 'quantity']],
  ['runs', ['lotId', 'cellId']],
];

/** Tables that only ever grow: a change or removal is refused by the database itself. */
const APPEND_ONLY = ['audit_entries', 'log_files', 'trace_blocks', 'readings', 'reports'];

/** Lays the first tables. */
export async function up(queryInterface: QueryInterface): Promise<void> {
  for (const [name, columns] of TABLES) {
    await queryInterface.createTable(
      name,
      columns as Parameters<QueryInterface['createTable']>[1],
      {
        charset: 'utf8mb4',
        engine: 'InnoDB',
      },
    );
  }
  for (const [table, fields, unique] of INDEXES)
    await queryInterface.addIndex(table, fields, { unique: unique ?? false });
  await makeAppendOnly(queryInterface, APPEND_ONLY);
  await queryInterface.bulkInsert('audit_head', [{ id: 1, hash: '0'.repeat(64) }]);
  await queryInterface.bulkInsert('settings', [
    {
      id: 1,
      labName: 'New laboratory',
      place: '',
      currency: 'EUR',
      timeZone: 'UTC',
      guardFactor: 1,
      cellPrefix: 'B',
      version: 1,
    },
  ]);
}
