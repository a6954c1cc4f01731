import { DataTypes, type QueryInterface } from 'sequelize';
import { optional } from './columns';

/** Which reading a finding came of, where no person saw it. */
export async function up(queryInterface: QueryInterface): Promise<void> {
  await queryInterface.addColumn(
    'inspection_entries',
    'readingId',
    optional(DataTypes.INTEGER.UNSIGNED),
  );
}
