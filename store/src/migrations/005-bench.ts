import { SHIPPED_RECIPES } from '@dusk-tally/core/bench';
import { DataTypes, type QueryInterface, QueryTypes } from 'sequelize';
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

const real = required(DataTypes.DOUBLE);
const maybeReal = optional(DataTypes.DOUBLE);
const whole = required(DataTypes.INTEGER.UNSIGNED);
const flag = required(DataTypes.BOOLEAN);
const maybeAt = optional(DataTypes.DATE(3));
const word = required(DataTypes.STRING(20));
const maybeText = optional(DataTypes.STRING(400));

const TABLES: Tables = [
  [
    'recipes',
    {
      id,
      name: { type: DataTypes.STRING(80), allowNull: false, unique: true },
      purpose: word,
      current: whole,
      shipped: flag,
      retiredAt: maybeAt,
      version,
    },
  ],
  [
    'recipe_versions',
    {
      id,
      recipeId: reference('recipes'),
      number: whole,
      steps: json,
      attendedOnly: flag,
      note: maybeText,
      personId: reference('people', true),
      at,
    },
  ],
  [
    'channel_bench',
    {
      channelId: { ...reference('channels'), primaryKey: true },
      limits: json,
      wiring: optional(DataTypes.TEXT),
      agent: optional(DataTypes.STRING(40)),
      updatedAt: at,
      version,
    },
  ],
  [
    'bench_settings',
    {
      id: { type: DataTypes.INTEGER.UNSIGNED, primaryKey: true },
      attendedFromMin: whole,
      attendedToMin: whole,
      attendedDays: json,
      silenceLimitS: real,
      ambientC: maybeReal,
      ambientAt: maybeAt,
      plannedAt: maybeAt,
      planSummary: optional(DataTypes.TEXT('long')),
      version,
    },
  ],
  [
    'bench_jobs',
    {
      id,
      cellId: reference('cells'),
      lotId: reference('lots'),
      recipeVersionId: reference('recipe_versions'),
      priority: whole,
      dueOn: optional(DataTypes.DATEONLY),
      state: word,
      parts: json,
      pinned: flag,
      endedReason: maybeText,
      personId: reference('people'),
      createdAt: at,
      version,
    },
  ],
  [
    'bench_runs',
    {
      id,
      jobId: reference('bench_jobs', true),
      cellId: reference('cells'),
      lotId: reference('lots'),
      channelId: reference('channels', true),
      recipeVersionId: reference('recipe_versions'),
      program: json,
      limits: json,
      startList: json,
      driven: flag,
      state: word,
      agent: optional(DataTypes.STRING(40)),
      speed: real,
      expectedAh: real,
      startSoc: real,
      counterAh: real,
      ambientC: maybeReal,
      startedAt: maybeAt,
      endedAt: maybeAt,
      endReason: maybeText,
      completed: optional(DataTypes.BOOLEAN),
      runId: reference('runs', true),
      personId: reference('people'),
      createdAt: at,
      version,
    },
  ],
  [
    'bench_live',
    {
      benchRunId: { ...reference('bench_runs'), primaryKey: true },
      lastSeq: whole,
      phase: word,
      step: whole,
      stepSinceS: real,
      stepAh: real,
      givenAh: real,
      takenAh: real,
      timeS: real,
      voltageV: maybeReal,
      currentA: maybeReal,
      temperatureC: maybeReal,
      receivedAt: at,
    },
  ],
  [
    'bench_records',
    {
      benchRunId: { ...reference('bench_runs'), primaryKey: true },
      seq: { type: DataTypes.INTEGER.UNSIGNED, primaryKey: true },
      timeS: real,
      step: whole,
      voltageV: maybeReal,
      currentA: maybeReal,
      temperatureC: maybeReal,
      counterAh: maybeReal,
      event: optional(DataTypes.TEXT),
    },
  ],
  [
    'bench_alarms',
    {
      id,
      benchRunId: reference('bench_runs'),
      seq: whole,
      cellId: reference('cells'),
      code: required(DataTypes.STRING(30)),
      action: word,
      text: required(DataTypes.STRING(400)),
      at,
      acknowledgedAt: maybeAt,
      acknowledgedBy: reference('people', true),
    },
  ],
  [
    'bench_commands',
    {
      id,
      benchRunId: reference('bench_runs'),
      kind: word,
      value: maybeReal,
      personId: reference('people'),
      personName: required(DataTypes.STRING(120)),
      at,
      doneAt: maybeAt,
    },
  ],
  [
    'spot_readings',
    {
      id,
      benchRunId: reference('bench_runs'),
      quantity: word,
      value: real,
      timeS: real,
      shownV: maybeReal,
      shownA: maybeReal,
      instrumentId: reference('instruments', true),
      personId: reference('people'),
      at,
    },
  ],
  [
    'agents',
    {
      name: { type: DataTypes.STRING(40), primaryKey: true },
      instance: required(DataTypes.STRING(40)),
      speed: real,
      seenAt: at,
    },
  ],
  [
    'api_tokens',
    {
      id,
      name: required(DataTypes.STRING(80)),
      scopes: json,
      hash: { ...hash, unique: true },
      personId: reference('people'),
      createdAt: at,
      revokedAt: maybeAt,
      lastUsedAt: maybeAt,
      windowAt: maybeAt,
      windowCount: { ...whole, defaultValue: 0 },
    },
  ],
  [
    'parallel_charges',
    {
      id,
      lotId: reference('lots'),
      cells: whole,
      ratedAh: real,
      fromSoc: real,
      supplyA: real,
      startedAt: at,
      fullAt: maybeAt,
      personId: reference('people'),
    },
  ],
];

/** Lays the bench: recipes with those that ship, jobs, runs and their records, agents and tokens. */
export async function up(queryInterface: QueryInterface): Promise<void> {
  for (const [name, columns] of TABLES)
    await queryInterface.createTable(name, columns, {
      charset: 'utf8mb4',
      engine: 'InnoDB',
    });
  await queryInterface.addIndex('recipe_versions', ['recipeId', 'number'], { unique: true });
  await queryInterface.addIndex('bench_jobs', ['state', 'id']);
  await queryInterface.addIndex('bench_jobs', ['cellId']);
  await queryInterface.addIndex('bench_runs', ['state', 'id']);
  await queryInterface.addIndex('bench_runs', ['cellId']);
  await queryInterface.addIndex('bench_alarms', ['benchRunId', 'seq'], { unique: true });
  await queryInterface.addIndex('bench_alarms', ['acknowledgedAt']);
  await queryInterface.addIndex('bench_commands', ['benchRunId', 'doneAt']);
  await makeAppendOnly(queryInterface, ['recipe_versions', 'spot_readings']);
  const now = new Date();
  const { sequelize } = queryInterface;
  await sequelize.query(
    `INSERT INTO bench_settings (id, attendedFromMin, attendedToMin, attendedDays, silenceLimitS, planSummary, version)
     VALUES (1, 480, 1080, '[1,2,3,4,5]', 120, 'null', 1)`,
    { type: QueryTypes.RAW },
  );
  for (const [index, { name, purpose, steps, attendedOnly }] of SHIPPED_RECIPES.entries()) {
    const recipeId = index + 1;
    await queryInterface.bulkInsert('recipes', [
      { id: recipeId, name, purpose, current: 1, shipped: true, version: 1 },
    ]);
    await queryInterface.bulkInsert('recipe_versions', [
      { recipeId, number: 1, steps: JSON.stringify(steps), attendedOnly, at: now },
    ]);
  }
}
