import { columnTypes as c, Table, Tables } from '../base';
import type * as Rows from './rows';

/** Reports as they were issued. */
export class ReportTables extends Tables {
  readonly reports = new Table<Rows.ReportRow>(this.session, 'reports', {
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
  readonly pdfs = new Table<Rows.ReportPdfRow>(this.session, 'report_pdfs', {
    reportId: c.ownId,
    pdf: c.bytes,
    at: c.moment,
  });
}
