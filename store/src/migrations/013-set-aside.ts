import { DataTypes, type QueryInterface, QueryTypes } from 'sequelize';
import { optional, required } from './columns';

/**
 * What the system does is done by *system*; records the app refuses are set aside with their reason;
 * plans under way are rows that any process sees.
 */
export async function up(queryInterface: QueryInterface): Promise<void> {
  const id = { type: DataTypes.INTEGER.UNSIGNED, primaryKey: true, autoIncrement: true };
  await queryInterface.sequelize.query(
    `INSERT INTO people (email, name, role, passwordHash, active, sessionEpoch, createdAt, version)
     VALUES ('system', 'system', 'system', '', 0, 1, NOW(3), 1)`,
    { type: QueryTypes.INSERT },
  );
  await queryInterface.createTable('bench_refusals', {
    id,
    agent: required(DataTypes.STRING(40)),
    benchRunId: optional(DataTypes.INTEGER.UNSIGNED),
    seq: optional(DataTypes.INTEGER.UNSIGNED),
    reason: required(DataTypes.STRING(400)),
    body: required(DataTypes.TEXT),
    bodyHash: { ...required(DataTypes.CHAR(64)), unique: true },
    at: required(DataTypes.DATE(3)),
    seenAt: optional(DataTypes.DATE(3)),
    seenBy: optional(DataTypes.INTEGER.UNSIGNED),
  });
  await queryInterface.addIndex('bench_refusals', ['seenAt']);
  await queryInterface.createTable('plannings', {
    id,
    startedAt: required(DataTypes.DATE(3)),
    personId: required(DataTypes.INTEGER.UNSIGNED),
    stoppedAt: optional(DataTypes.DATE(3)),
    stoppedBy: optional(DataTypes.INTEGER.UNSIGNED),
    endedAt: optional(DataTypes.DATE(3)),
  });
  await queryInterface.addIndex('plannings', ['endedAt']);
}
