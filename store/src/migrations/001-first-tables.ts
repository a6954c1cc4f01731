import type { QueryInterface } from 'sequelize';
import { TABLES_OF_EVIDENCE } from './001-tables-of-evidence';
import { TABLES_OF_LOTS } from './001-tables-of-lots';
import { makeAppendOnly } from './columns';

const INDEXES: [string, string[], boolean?][] = [
  ['sign_in_failures', ['email', 'at']],
  ['audit_entries', ['subjectType', 'subjectId']],
  ['claim_items', ['lotId', 'kind'], true],
  ['cells', ['lotId', 'position'], true],
  ['readings', ['cellId', 'kind', 'id']],
  ['readings', ['lotId', 'kind']],
  ['figures', ['lotId', 'quantity']],
  ['figures', ['cellId', 'quantity']],
  ['runs', ['lotId', 'cellId']],
];

/** Tables that only ever grow: a change or removal is refused by the database itself. */
const APPEND_ONLY = ['audit_entries', 'log_files', 'trace_blocks', 'readings', 'reports'];

/** Lays the first tables. */
export async function up(queryInterface: QueryInterface): Promise<void> {
  for (const [name, columns] of [...TABLES_OF_LOTS, ...TABLES_OF_EVIDENCE]) {
    await queryInterface.createTable(
      name,
      columns as Parameters<QueryInterface['createTable']>[1],
      {
        charset: 'utf8mb4',
        engine: 'InnoDB',
      },
    );
  }
  for (const [table, fields, unique] of INDEXES)
    await queryInterface.addIndex(table, fields, { unique: unique ?? false });
  await makeAppendOnly(queryInterface, APPEND_ONLY);
  await queryInterface.bulkInsert('audit_head', [{ id: 1, hash: '0'.repeat(64) }]);
  await queryInterface.bulkInsert('settings', [
    {
      id: 1,
      labName: 'New laboratory',
      place: '',
      currency: 'EUR',
      timeZone: 'UTC',
      guardFactor: 1,
      cellPrefix: 'B',
      version: 1,
    },
  ]);
}
