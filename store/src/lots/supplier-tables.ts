import { columnTypes as c, Table, Tables } from '../base';
import type { EarlierLotRow, SupplierNoteRow } from './supplier-rows';

const takenBack = { takenBackAt: c.moment, takenBackBy: c.whole, takenBackWhy: c.text };

/** What is known of suppliers beside the lots that were tested here. */
export class SupplierTables extends Tables {
  readonly earlierLots = new Table<EarlierLotRow>(this.session, 'earlier_lots', {
    id: c.autoId,
    supplierId: c.whole,
    title: c.text,
    model: c.text,
    chemistry: c.text,
    arrivedOn: c.day,
    cells: c.whole,
    judged: c.whole,
    met: c.whole,
    margin: c.real,
    dead: c.whole,
    ageMonths: c.real,
    copies: c.whole,
    daysToDeliver: c.whole,
    claimedKwh: c.real,
    goodKwh: c.real,
    landedCents: c.whole,
    paidCents: c.whole,
    paidCurrency: c.text,
    rate: c.real,
    rateOn: c.day,
    disputeOutcome: c.text,
    personId: c.whole,
    at: c.moment,
    ...takenBack,
  });
  readonly notes = new Table<SupplierNoteRow>(this.session, 'supplier_notes', {
    id: c.autoId,
    supplierId: c.whole,
    isHearsay: c.flag,
    text: c.long,
    source: c.text,
    personId: c.whole,
    at: c.moment,
    ...takenBack,
  });
}
