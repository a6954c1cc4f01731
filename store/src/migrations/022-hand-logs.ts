import { DataTypes, type QueryInterface } from 'sequelize';
import { at, id, json, optional, reference, required, version } from './columns';

/** Runs of testers that only show a number, read point by point. */
export async function up(queryInterface: QueryInterface): Promise<void> {
  const moment = DataTypes.DATE(3);
  await queryInterface.createTable('hand_logs', {
    id,
    benchRunId: { ...reference('bench_runs'), unique: true },
    cellId: reference('cells'),
    lotId: reference('lots'),
    loadOnAt: required(moment),
    setA: optional(DataTypes.DOUBLE),
    setCutoffV: optional(DataTypes.DOUBLE),
    countAtStartAh: required(DataTypes.DOUBLE),
    shapeRuns: json,
    endedAt: optional(moment),
    readingId: reference('readings', true),
    personId: reference('people'),
    at,
    version,
  });
  await queryInterface.addIndex('hand_logs', ['lotId', 'cellId']);
  await queryInterface.createTable('hand_points', {
    id,
    handLogId: reference('hand_logs'),
    at,
    values: json,
    decimals: json,
    isStop: required(DataTypes.BOOLEAN),
    keptDespite: optional(DataTypes.STRING(400)),
    clientKey: { ...required(DataTypes.CHAR(36)), unique: true },
    personId: reference('people'),
    typedAt: required(moment),
    takenBackAt: optional(moment),
    takenBackBy: reference('people', true),
  });
  await queryInterface.addIndex('hand_points', ['handLogId', 'at']);
  await queryInterface.addColumn('readings', 'handLogId', reference('hand_logs', true));
}
