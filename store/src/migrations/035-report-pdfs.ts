import { DataTypes, type QueryInterface } from 'sequelize';
import { at, makeAppendOnly, optional, reference, required } from './columns';

/** The PDF of a report is made from its frozen snapshot after it was issued, and made again where that failed. */
export async function up(queryInterface: QueryInterface): Promise<void> {
  await queryInterface.createTable('report_pdfs', {
    reportId: { ...reference('reports'), primaryKey: true },
    pdf: required(DataTypes.BLOB('long')),
    at,
  });
  await queryInterface.changeColumn('reports', 'pdf', optional(DataTypes.BLOB('long')));
  await makeAppendOnly(queryInterface, ['report_pdfs']);
}
