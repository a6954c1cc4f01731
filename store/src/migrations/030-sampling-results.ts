import { DataTypes, type QueryInterface } from 'sequelize';
import { at, id, makeAppendOnly, optional, reference, required } from './columns';

/**
 * What drawn cells came to first, what a plan was decided as, and who opened it again: a decision is not
 * tested away.
 */
export async function up(queryInterface: QueryInterface): Promise<void> {
  await queryInterface.createTable('sampling_results', {
    id,
    planId: reference('sampling_plans'),
    cellId: reference('cells', true),
    state: required(DataTypes.STRING(16)),
    value: optional(DataTypes.DOUBLE),
    reason: optional(DataTypes.STRING(400)),
    personId: reference('people', true),
    at,
  });
  await makeAppendOnly(queryInterface, ['sampling_results']);
}
