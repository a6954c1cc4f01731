import { DataTypes, type QueryInterface } from 'sequelize';
import { optional } from './columns';

/** What a lot from before cost in the currency it was paid in, and the day’s rate into the house’s. */
export async function up(queryInterface: QueryInterface): Promise<void> {
  await queryInterface.addColumn('earlier_lots', 'paidCents', optional(DataTypes.INTEGER.UNSIGNED));
  await queryInterface.addColumn('earlier_lots', 'paidCurrency', optional(DataTypes.STRING(3)));
  await queryInterface.addColumn('earlier_lots', 'rate', optional(DataTypes.DOUBLE));
  await queryInterface.addColumn('earlier_lots', 'rateOn', optional(DataTypes.DATEONLY));
}
