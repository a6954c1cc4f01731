import { DataTypes, type QueryInterface } from 'sequelize';
import { optional } from './columns';

/**
 * What an amount is asked for beyond what the books carry; and what letters and files stood on when
 * they were made, so that they can say that they are overtaken.
 */
export async function up(queryInterface: QueryInterface): Promise<void> {
  await queryInterface.addColumn('disputes', 'ground', optional(DataTypes.STRING(300)));
  for (const table of ['dispute_letters', 'dispute_files']) {
    await queryInterface.addColumn(table, 'askCents', optional(DataTypes.INTEGER.UNSIGNED));
    await queryInterface.addColumn(table, 'basis', optional(DataTypes.STRING(64)));
  }
}
