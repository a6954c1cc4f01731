import { DataTypes, type QueryInterface } from 'sequelize';
import { at, id, json, optional, reference, required, version } from './columns';

/** What people say of a lot’s money beside its order: own time, prices by grade, ways out. Whole cents. */
export async function up(queryInterface: QueryInterface): Promise<void> {
  const cents = DataTypes.INTEGER.UNSIGNED;
  await queryInterface.createTable('lot_books', {
    id,
    lotId: { ...reference('lots'), unique: true },
    minutes: required(cents),
    centsPerMinute: required(cents),
    line: required(DataTypes.DOUBLE),
    gradePrices: json,
    refundCents: optional(cents),
    returnFreightCents: required(cents),
    packingMinutes: required(cents),
    partialRefundCents: required(cents),
    replacementCents: optional(cents),
    asksTesting: required(DataTypes.BOOLEAN),
    personId: reference('people'),
    at,
    version,
  });
}
