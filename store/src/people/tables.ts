import { columnTypes as c, type Session, Table, Tables } from '../base';
import type * as Rows from './rows';

/** The lab’s settings, its people, and what they did. */
export class HouseTables extends Tables {
  readonly settings;
  readonly series;
  readonly people;
  readonly signInFailures;
  readonly auditEntries;

  constructor(s: Session) {
    super(s);
    this.settings = new Table<Rows.SettingsRow>(
      s,
      'settings',
      {
        id: c.ownId,
        labName: c.text,
        place: c.text,
        currency: c.text,
        timeZone: c.text,
        guardFactor: c.real,
        cellPrefix: c.text,
        holdLimits: c.text,
        version: c.version,
      },
      ['holdLimits'],
    );
    this.series = new Table<Rows.SeriesRow>(s, 'series', { name: c.ownText, next: c.whole });
    this.people = new Table<Rows.PersonRow>(s, 'people', {
      id: c.autoId,
      email: c.text,
      name: c.text,
      role: c.text,
      passwordHash: c.text,
      active: c.flag,
      sessionEpoch: c.whole,
      createdAt: c.moment,
      version: c.version,
    });
    this.signInFailures = new Table<Rows.SignInFailureRow>(s, 'sign_in_failures', {
      id: c.autoId,
      email: c.text,
      at: c.moment,
    });
    this.auditEntries = new Table<Rows.AuditRow>(
      s,
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
}
