import { DataTypes, type QueryInterface } from 'sequelize';
import { json, reference, required } from './columns';

/** Widths of the columns of a table as one person left them, on whichever machine. */
export async function up(queryInterface: QueryInterface): Promise<void> {
  await queryInterface.createTable('column_widths', {
    personId: { ...reference('people'), primaryKey: true },
    tableName: { ...required(DataTypes.STRING(40)), primaryKey: true },
    widths: json,
  });
}
