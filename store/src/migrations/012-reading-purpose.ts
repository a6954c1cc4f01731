import { DataTypes, type QueryInterface } from 'sequelize';

/** Readings say what they were taken for. Until now all of them counted as taken on arrival. */
export async function up(queryInterface: QueryInterface): Promise<void> {
  await queryInterface.addColumn('readings', 'purpose', {
    type: DataTypes.STRING(10),
    allowNull: false,
    defaultValue: 'arrival',
  });
}
