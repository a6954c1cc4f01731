import { DataTypes, type QueryInterface, QueryTypes } from 'sequelize';

/** A run keeps the chemistry of its cell: how long it takes is never guessed from a voltage. */
export async function up(queryInterface: QueryInterface): Promise<void> {
  await queryInterface.addColumn('bench_runs', 'chemistry', {
    type: DataTypes.STRING(20),
    allowNull: false,
    defaultValue: 'LFP',
  });
  await queryInterface.sequelize.query(
    `UPDATE bench_runs SET chemistry = (
       SELECT cell_models.chemistry FROM lots JOIN cell_models ON cell_models.id = lots.modelId
       WHERE lots.id = bench_runs.lotId)`,
    { type: QueryTypes.UPDATE },
  );
}
