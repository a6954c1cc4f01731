import { DataTypes, type QueryInterface } from 'sequelize';
import { at, id, json, makeAppendOnly, optional, reference, required } from './columns';

/**
 * What held of instruments and channels from which day on, photographs set aside, and suppliers
 * that turned out to be one.
 */
export async function up(queryInterface: QueryInterface): Promise<void> {
  await queryInterface.createTable('meter_periods', {
    id,
    instrumentId: reference('instruments'),
    channelId: reference('channels', true),
    holdsFrom: required(DataTypes.DATEONLY),
    data: json,
    reason: required(DataTypes.STRING(400)),
    personId: reference('people', true),
    at,
  });
  await queryInterface.addIndex('meter_periods', ['instrumentId', 'channelId', 'holdsFrom']);
  await queryInterface.createTable('photo_marks', {
    id,
    photoId: reference('photos'),
    aside: required(DataTypes.BOOLEAN),
    reason: required(DataTypes.STRING(400)),
    personId: reference('people'),
    at,
  });
  await queryInterface.addIndex('photo_marks', ['photoId', 'id']);
  await makeAppendOnly(queryInterface, ['photo_marks']);
  await queryInterface.addColumn('suppliers', 'mergedInto', optional(DataTypes.INTEGER.UNSIGNED));
}
