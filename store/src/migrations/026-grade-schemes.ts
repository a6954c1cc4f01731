import { DataTypes, type QueryInterface } from 'sequelize';
import { at, id, json, makeAppendOnly, optional, reference, required, version } from './columns';

/** Schemes of grades by version, grades given by people, and what each cell is graded by. */
export async function up(queryInterface: QueryInterface): Promise<void> {
  const own = { charset: 'utf8mb4', engine: 'InnoDB' };
  const who = { personId: reference('people'), at };
  await queryInterface.createTable(
    'grade_schemes',
    {
      id,
      scope: required(DataTypes.STRING(40)),
      name: required(DataTypes.STRING(60)),
      schemeVersion: required(DataTypes.INTEGER.UNSIGNED),
      body: json,
      ended: required(DataTypes.BOOLEAN),
      reason: required(DataTypes.STRING(400)),
      ...who,
    },
    own,
  );
  await queryInterface.addIndex('grade_schemes', ['scope', 'schemeVersion'], { unique: true });
  await makeAppendOnly(queryInterface, ['grade_schemes']);
  await queryInterface.createTable(
    'grade_decisions',
    {
      id,
      lotId: reference('lots'),
      cellId: reference('cells'),
      grade: required(DataTypes.STRING(40)),
      reason: required(DataTypes.STRING(400)),
      takenBackAt: optional(DataTypes.DATE(3)),
      takenBackBy: reference('people', true),
      takenBackWhy: optional(DataTypes.STRING(400)),
      version,
      ...who,
    },
    own,
  );
  await queryInterface.addIndex('grade_decisions', ['lotId', 'cellId']);
  await queryInterface.createTable(
    'lot_grounds',
    {
      lotId: { ...reference('lots'), primaryKey: true },
      grounds: json,
    },
    own,
  );
  const count = required(DataTypes.INTEGER.UNSIGNED);
  await queryInterface.createTable(
    'lot_days',
    {
      lotId: { ...reference('lots'), primaryKey: true },
      day: { ...required(DataTypes.DATEONLY), primaryKey: true },
      met: count,
      notMet: count,
      tooClose: count,
      held: count,
      open: count,
    },
    own,
  );
  await queryInterface.addColumn('standings', 'evidence', optional(DataTypes.TEXT('long')));
  // All are judged anew at the next start: what each is graded by is kept from then on.
  await queryInterface.sequelize.query("UPDATE standings SET evidence = '{}', inputHash = ''");
}
