import { columnTypes as c, driverOf, Table, Tables, type Transaction } from '../base';
import type { StringBlockRow, StringLogRow } from './string-log-rows';

/** Strings that are watched. */
export class StringTables extends Tables {
  readonly logs = new Table<StringLogRow>(
    this.session,
    'string_logs',
    {
      id: c.autoId,
      lotId: c.whole,
      name: c.text,
      fileName: c.text,
      sha256: c.text,
      bytes: c.real,
      rows: c.whole,
      durationS: c.real,
      startedAt: c.moment,
      cellHeaders: c.long,
      cellIds: c.long,
      decimalsV: c.whole,
      beginsS: c.long,
      chemistry: c.text,
      watch: c.long,
      findings: c.long,
      overview: c.bytes,
      takenBackAt: c.moment,
      takenBackBy: c.whole,
      takenBackWhy: c.text,
      personId: c.whole,
      at: c.moment,
      version: c.version,
    },
    ['cellHeaders', 'cellIds', 'beginsS', 'watch', 'findings'],
  );
  readonly blocks = new Table<StringBlockRow>(this.session, 'string_blocks', {
    stringLogId: c.ownId,
    columnName: c.ownText,
    blockIndex: c.ownId,
    payload: c.bytes,
  });

  /** Writes blocks in the database's own binary form. */
  async insertBlocks(
    stringLogId: number,
    blocks: Omit<StringBlockRow, 'stringLogId'>[],
    transaction: Transaction,
  ): Promise<void> {
    await driverOf(transaction).batch(
      'INSERT INTO string_blocks (stringLogId, columnName, blockIndex, payload) VALUES (?, ?, ?, ?)',
      blocks.map((block) => [stringLogId, block.columnName, block.blockIndex, block.payload]),
    );
  }
}
