import { DataTypes, type QueryInterface, QueryTypes } from 'sequelize';
import { optional } from './columns';

/** How cold and how warm the lab keeps its room. */
export async function up(queryInterface: QueryInterface): Promise<void> {
  for (const column of ['roomLowC', 'roomHighC'])
    await queryInterface.addColumn('settings', column, optional(DataTypes.DOUBLE));
  // Where cells stand is made new by today’s rules.
  await queryInterface.sequelize.query("UPDATE standings SET inputHash = ''", {
    type: QueryTypes.UPDATE,
  });
}
