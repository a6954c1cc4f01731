import { columnTypes as c, Table, Tables } from '../base';
import type * as Rows from './rows';

/** The lab’s settings, its people, and what they did. */
export class HouseTables extends Tables {
  readonly settings = new Table<Rows.SettingsRow>(
    this.session,
    'settings',
    {
      id: c.ownId,
      labName: c.text,
      place: c.text,
      currency: c.text,
      timeZone: c.text,
      guardFactor: c.real,
      roomLowC: c.real,
      roomHighC: c.real,
      cellPrefix: c.text,
      holdLimits: c.text,
      markId: c.whole,
      language: c.text,
      targetCentsPerKwh: c.whole,
      version: c.version,
    },
    ['holdLimits'],
  );
  readonly reportMarks = new Table<Rows.ReportMarkRow>(this.session, 'report_marks', {
    id: c.autoId,
    png: c.bytes,
    width: c.whole,
    height: c.whole,
    sha256: c.text,
    personId: c.whole,
    at: c.moment,
  });
  readonly series = new Table<Rows.SeriesRow>(this.session, 'series', {
    name: c.ownText,
    next: c.whole,
  });
  readonly people = new Table<Rows.PersonRow>(this.session, 'people', {
    id: c.autoId,
    email: c.text,
    name: c.text,
    role: c.text,
    passwordHash: c.text,
    passwordIsOnce: c.flag,
    active: c.flag,
    sessionEpoch: c.whole,
    createdAt: c.moment,
    version: c.version,
  });
  readonly columnWidths = new Table<Rows.ColumnWidthsRow>(
    this.session,
    'column_widths',
    { personId: c.ownId, tableName: c.ownText, widths: c.long },
    ['widths'],
  );
  readonly doneActs = new Table<Rows.DoneActRow>(this.session, 'done_acts', {
    id: c.ownText,
    personId: c.whole,
    inputHash: c.text,
    result: c.bytes,
    at: c.moment,
  });
  readonly signInFailures = new Table<Rows.SignInFailureRow>(this.session, 'sign_in_failures', {
    id: c.autoId,
    email: c.text,
    place: c.text,
    at: c.moment,
  });
  readonly signInPlaces = new Table<Rows.SignInPlaceRow>(this.session, 'sign_in_places', {
    id: c.autoId,
    email: c.text,
    place: c.text,
    at: c.moment,
  });
  readonly auditEntries = new Table<Rows.AuditRow>(
    this.session,
    'audit_entries',
    {
      id: c.autoId,
      at: c.moment,
      personId: c.whole,
      personName: c.text,
      act: c.text,
      subjectType: c.text,
      subjectId: c.text,
      before: c.long,
      after: c.long,
      previousHash: c.text,
      hash: c.text,
    },
    ['before', 'after'],
  );
}
