import { columnTypes as c, Table, Tables } from '../base';
import type * as Rows from './rows';

const who = { personId: c.whole, at: c.moment };

/** Disputes with suppliers. */
export class DisputeTables extends Tables {
  readonly disputes = new Table<Rows.DisputeRow>(this.session, 'disputes', {
    id: c.autoId,
    lotId: c.whole,
    stage: c.text,
    remedy: c.text,
    askCents: c.whole,
    ground: c.text,
    language: c.text,
    gotCents: c.whole,
    ...who,
    version: c.version,
  });
  readonly events = new Table<Rows.DisputeEventRow>(this.session, 'dispute_events', {
    id: c.autoId,
    disputeId: c.whole,
    stage: c.text,
    day: c.day,
    text: c.long,
    cents: c.whole,
    undoes: c.whole,
    ...who,
  });
  readonly letters = new Table<Rows.DisputeLetterRow>(
    this.session,
    'dispute_letters',
    {
      id: c.autoId,
      disputeId: c.whole,
      title: c.text,
      body: c.long,
      isSent: c.flag,
      askCents: c.whole,
      basis: c.text,
      ...who,
      version: c.version,
    },
    ['body'],
  );
  readonly papers = new Table<Rows.DisputePaperRow>(this.session, 'dispute_papers', {
    id: c.autoId,
    disputeId: c.whole,
    name: c.text,
    type: c.text,
    bytes: c.bytes,
    size: c.whole,
    sha256: c.text,
    ...who,
  });
  readonly files = new Table<Rows.DisputeFileRow>(this.session, 'dispute_files', {
    id: c.autoId,
    disputeId: c.whole,
    number: c.text,
    language: c.text,
    snapshot: c.long,
    sha256: c.text,
    askCents: c.whole,
    basis: c.text,
    ...who,
  });
}
