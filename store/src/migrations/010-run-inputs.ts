import { DataTypes, type QueryInterface, QueryTypes } from 'sequelize';
import { optional } from './columns';

/** Codes of findings that were computed; all others came from reading the file. */
const COMPUTED = new Set([
  'long-log',
  'ended-above-cut-off',
  'stopped-between-samples',
  'ended-close-to-cut-off',
  'run-incomplete',
  'cut-off-in-hole',
  'cut-off-in-hole-uncounted',
  'hole-not-counted',
  'load-in-hole',
  'interrupted',
  'counter-not-zeroed',
  'counter-disagrees',
  'time-restarts-early',
  'voltage-corrected',
  'no-current',
]);

/** Runs know the hash of all their figures were computed from; their findings where they came from. */
export async function up(queryInterface: QueryInterface): Promise<void> {
  const { sequelize } = queryInterface;
  await queryInterface.addColumn('runs', 'inputHash', optional(DataTypes.CHAR(64)));
  const ids = await sequelize.query<{ id: number }>('SELECT id FROM runs ORDER BY id', {
    type: QueryTypes.SELECT,
  });
  for (const { id } of ids) {
    const [row] = await sequelize.query<{ summary: string }>(
      "SELECT CONCAT(summary, '') AS summary FROM runs WHERE id = :id",
      { type: QueryTypes.SELECT, replacements: { id } },
    );
    const summary = JSON.parse(row!.summary) as { findings: { code: string; from?: string }[] };
    for (const finding of summary.findings)
      finding.from ??= COMPUTED.has(finding.code) ? 'computed' : 'file';
    await sequelize.query('UPDATE runs SET summary = :summary WHERE id = :id', {
      type: QueryTypes.UPDATE,
      replacements: { id, summary: JSON.stringify(summary) },
    });
  }
}
