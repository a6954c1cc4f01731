import { DataTypes, type QueryInterface } from 'sequelize';
import { optional } from './columns';

/** A lot keeps the key of the try that took it in: the same try again gives that lot. */
export async function up(queryInterface: QueryInterface): Promise<void> {
  await queryInterface.addColumn('lots', 'clientKey', optional(DataTypes.CHAR(36)));
  await queryInterface.addIndex('lots', ['clientKey'], { unique: true });
}
