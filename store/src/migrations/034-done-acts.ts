import { DataTypes, type QueryInterface } from 'sequelize';
import { at, hash, reference } from './columns';

/** Acts that were done, by the key they were sent with: one press is one act, however often it is sent. */
export async function up(queryInterface: QueryInterface): Promise<void> {
  await queryInterface.createTable('done_acts', {
    id: { type: DataTypes.CHAR(36), primaryKey: true },
    personId: reference('people'),
    inputHash: hash,
    result: { type: DataTypes.BLOB('medium'), allowNull: true },
    at,
  });
  await queryInterface.addIndex('done_acts', ['at']);
}
