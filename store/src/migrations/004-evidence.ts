import { type ModelAttributeColumnOptions, DataTypes, type QueryInterface } from 'sequelize';
import { optional } from './columns';

const COLUMNS: [string, Record<string, ModelAttributeColumnOptions>][] = [
  ['readings', { repeats: optional(DataTypes.TEXT), probe: optional(DataTypes.STRING(10)) }],
  ['runs', { leadUncertaintyMohm: optional(DataTypes.DOUBLE) }],
  ['cells', { retightenedAt: optional(DataTypes.DATE(3)) }],
];

/** Repeated readings with their probes, what is known of leads, and joints made again. */
export async function up(queryInterface: QueryInterface): Promise<void> {
  for (const [table, columns] of COLUMNS)
    for (const [name, column] of Object.entries(columns))
      await queryInterface.addColumn(table, name, column);
}
