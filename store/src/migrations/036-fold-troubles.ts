import { DataTypes, type QueryInterface } from 'sequelize';
import { at, optional, reference, required } from './columns';

/** Runs of the bench that ended and could not be taken in as evidence: why, and when it is tried again. */
export async function up(queryInterface: QueryInterface): Promise<void> {
  await queryInterface.createTable('bench_fold_troubles', {
    benchRunId: { ...reference('bench_runs'), primaryKey: true },
    reason: required(DataTypes.TEXT),
    tries: required(DataTypes.INTEGER.UNSIGNED),
    at,
    nextAt: at,
    leftBy: reference('people', true),
    leftReason: optional(DataTypes.STRING(400)),
  });
}
