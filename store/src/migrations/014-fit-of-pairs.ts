import { type QueryInterface, QueryTypes } from 'sequelize';

/**
 * Two results of one cell that disagree have one weight in the fit of channels, whichever is named
 * first: all lots are judged anew when the app starts, and what changed by it is said.
 */
export async function up(queryInterface: QueryInterface): Promise<void> {
  await queryInterface.sequelize.query("UPDATE standings SET inputHash = ''", {
    type: QueryTypes.UPDATE,
  });
}
