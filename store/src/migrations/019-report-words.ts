import { DataTypes, type QueryInterface } from 'sequelize';
import { at, hash, id, makeAppendOnly, optional, reference, required } from './columns';

/** The lab’s mark, which reports carry, and the language they are written in. */
export async function up(queryInterface: QueryInterface): Promise<void> {
  await queryInterface.createTable('report_marks', {
    id,
    png: required(DataTypes.BLOB('medium')),
    width: required(DataTypes.SMALLINT.UNSIGNED),
    height: required(DataTypes.SMALLINT.UNSIGNED),
    sha256: hash,
    personId: reference('people'),
    at,
  });
  await makeAppendOnly(queryInterface, ['report_marks']);
  await queryInterface.addColumn('settings', 'markId', optional(DataTypes.INTEGER.UNSIGNED));
  await queryInterface.addColumn('settings', 'language', {
    ...required(DataTypes.STRING(2)),
    defaultValue: 'en',
  });
}
