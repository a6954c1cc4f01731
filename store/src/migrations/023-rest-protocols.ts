import { DataTypes, type QueryInterface } from 'sequelize';
import { at, id, json, optional, reference, required } from './columns';

/** Rest protocols a lab wrote itself, and recipes that end on the shelf. */
export async function up(queryInterface: QueryInterface): Promise<void> {
  await queryInterface.createTable('rest_protocols', {
    id,
    name: required(DataTypes.STRING(60)),
    protocol: json,
    retired: required(DataTypes.BOOLEAN),
    reason: required(DataTypes.STRING(400)),
    personId: reference('people'),
    at,
  });
  await queryInterface.addIndex('rest_protocols', ['name', 'id']);
  await queryInterface.addColumn('recipe_versions', 'thenRest', optional(DataTypes.STRING(60)));
}
