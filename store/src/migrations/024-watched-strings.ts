import { DataTypes, type QueryInterface } from 'sequelize';
import {
  at,
  id,
  hash,
  json,
  makeAppendOnly,
  optional,
  reference,
  required,
  version,
} from './columns';

/** Logs of the voltages of all cells of a string. */
export async function up(queryInterface: QueryInterface): Promise<void> {
  const moment = DataTypes.DATE(3);
  await queryInterface.createTable('string_logs', {
    id,
    lotId: reference('lots'),
    name: required(DataTypes.STRING(80)),
    fileName: required(DataTypes.STRING(255)),
    sha256: { ...hash, allowNull: true, unique: true },
    bytes: required(DataTypes.BIGINT.UNSIGNED),
    rows: required(DataTypes.INTEGER.UNSIGNED),
    durationS: required(DataTypes.DOUBLE),
    startedAt: optional(moment),
    cellHeaders: json,
    cellIds: json,
    decimalsV: required(DataTypes.INTEGER.UNSIGNED),
    beginsS: json,
    chemistry: required(DataTypes.STRING(20)),
    watch: json,
    findings: json,
    overview: required(DataTypes.BLOB('long')),
    takenBackAt: optional(moment),
    takenBackBy: reference('people', true),
    takenBackWhy: optional(DataTypes.STRING(400)),
    personId: reference('people'),
    at,
    version,
  });
  await queryInterface.addIndex('string_logs', ['lotId', 'id']);
  await queryInterface.createTable('string_blocks', {
    stringLogId: { ...reference('string_logs'), primaryKey: true },
    columnName: { type: DataTypes.STRING(20), primaryKey: true },
    blockIndex: { type: DataTypes.INTEGER.UNSIGNED, primaryKey: true },
    payload: required(DataTypes.BLOB('medium')),
  });
  await makeAppendOnly(queryInterface, ['string_blocks']);
}
