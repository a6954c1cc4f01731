import { DataTypes, type QueryInterface } from 'sequelize';
import { optional } from './columns';

/** With which run another may be swapped. */
export async function up(queryInterface: QueryInterface): Promise<void> {
  await queryInterface.addColumn(
    'result_holds',
    'otherRunId',
    optional(DataTypes.INTEGER.UNSIGNED),
  );
}
