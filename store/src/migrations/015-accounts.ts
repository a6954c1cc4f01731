import { DataTypes, type QueryInterface } from 'sequelize';
import { required } from './columns';

/**
 * Passwords made for one sign-in; attempts are counted by where they come from, and where a person
 * signed in from is known.
 */
export async function up(queryInterface: QueryInterface): Promise<void> {
  await queryInterface.addColumn('people', 'passwordIsOnce', {
    type: DataTypes.BOOLEAN,
    allowNull: false,
    defaultValue: false,
  });
  await queryInterface.addColumn('sign_in_failures', 'place', {
    type: DataTypes.STRING(64),
    allowNull: false,
    defaultValue: '',
  });
  await queryInterface.addIndex('sign_in_failures', ['place', 'at']);
  await queryInterface.createTable('sign_in_places', {
    id: { type: DataTypes.INTEGER.UNSIGNED, primaryKey: true, autoIncrement: true },
    email: required(DataTypes.STRING(190)),
    place: required(DataTypes.STRING(64)),
    at: required(DataTypes.DATE(3)),
  });
  await queryInterface.addIndex('sign_in_places', ['email', 'place']);
}
