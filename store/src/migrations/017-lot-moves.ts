import { DataTypes, type QueryInterface } from 'sequelize';
import { at, id, json, reference, required } from './columns';

/** What moved in a lot without an act on it, by day and kind of cause. */
export async function up(queryInterface: QueryInterface): Promise<void> {
  await queryInterface.createTable('lot_moves', {
    id,
    lotId: reference('lots'),
    day: required(DataTypes.DATEONLY),
    causes: required(DataTypes.STRING(190)),
    at,
    detail: json,
  });
  await queryInterface.addIndex('lot_moves', ['lotId', 'day', 'causes'], { unique: true });
}
