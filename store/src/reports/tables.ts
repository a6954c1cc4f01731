import { columnTypes as c, type Session, Table, Tables } from '../base';
import type * as Rows from './rows';

/** Reports as they were issued. */
export class ReportTables extends Tables {
  readonly reports;

  constructor(s: Session) {
    super(s);
    this.reports = new Table<Rows.ReportRow>(s, 'reports', {
      id: c.autoId,
      number: c.text,
      lotId: c.whole,
      customer: c.text,
      snapshot: c.long,
      sha256: c.text,
      pdf: c.bytes,
      personId: c.whole,
      createdAt: c.moment,
    });
  }
}
