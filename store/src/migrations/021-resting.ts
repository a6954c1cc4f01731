import { DataTypes, type QueryInterface } from 'sequelize';
import { at, id, json, optional, reference, required, version } from './columns';

/** Cells that stand and are read, and the temperature a reading was taken at. */
export async function up(queryInterface: QueryInterface): Promise<void> {
  await queryInterface.createTable('rests', {
    id,
    lotId: reference('lots'),
    cellId: reference('cells'),
    protocol: json,
    look: required(DataTypes.TINYINT.UNSIGNED),
    fullAt: required(DataTypes.DATE(3)),
    reason: optional(DataTypes.STRING(400)),
    takenOff: required(DataTypes.BOOLEAN),
    outcome: optional(DataTypes.STRING(20)),
    endedAt: optional(DataTypes.DATE(3)),
    detail: json,
    personId: reference('people'),
    at,
    version,
  });
  await queryInterface.addIndex('rests', ['lotId', 'cellId', 'id']);
  await queryInterface.addColumn('readings', 'temperatureC', optional(DataTypes.DOUBLE));
}
