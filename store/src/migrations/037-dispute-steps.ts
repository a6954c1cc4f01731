import { DataTypes, type QueryInterface } from 'sequelize';
import { optional } from './columns';

/** A step of a dispute that takes another one back, which was noted by mistake. */
export async function up(queryInterface: QueryInterface): Promise<void> {
  await queryInterface.addColumn('dispute_events', 'undoes', optional(DataTypes.INTEGER.UNSIGNED));
}
