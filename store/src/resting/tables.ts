import { columnTypes as c, Table, Tables } from '../base';
import type * as Rows from './rows';

/** Cells on the rest shelf. */
export class RestTables extends Tables {
  readonly rests = new Table<Rows.RestRow>(
    this.session,
    'rests',
    {
      id: c.autoId,
      lotId: c.whole,
      cellId: c.whole,
      protocol: c.long,
      look: c.whole,
      fullAt: c.moment,
      reason: c.text,
      takenOff: c.flag,
      outcome: c.text,
      endedAt: c.moment,
      detail: c.long,
      personId: c.whole,
      at: c.moment,
      version: c.version,
    },
    ['protocol', 'detail'],
  );
  readonly protocols = new Table<Rows.RestProtocolRow>(
    this.session,
    'rest_protocols',
    {
      id: c.autoId,
      name: c.text,
      protocol: c.long,
      retired: c.flag,
      reason: c.text,
      personId: c.whole,
      at: c.moment,
    },
    ['protocol'],
  );
}
