import { DataTypes, type QueryInterface } from 'sequelize';
import { optional } from './columns';

/** How a cell is held while it is tested: the data sheet’s force, what a recipe says, what a run did. */
export async function up(queryInterface: QueryInterface): Promise<void> {
  await queryInterface.addColumn('cell_models', 'clampForceN', optional(DataTypes.DOUBLE));
  for (const table of ['recipe_versions', 'bench_runs', 'runs'])
    await queryInterface.addColumn(table, 'clamping', optional(DataTypes.STRING(8)));
}
