import type { GradeScheme, LotGrounds } from '@dusk-tally/core/verdicts';
import { columnTypes as c, Table, Tables } from '../base';

/** One version of a scheme of grades; a version never changes. */
export interface GradeSchemeRow {
  id: number;
  /** `house`, `chemistry:…` or `model:…`. */
  scope: string;
  name: string;
  schemeVersion: number;
  body: Pick<GradeScheme, 'grades' | 'atBest' | 'tooCloseIsEnough'>;
  /** From here on the wider scheme holds again. */
  ended: boolean;
  reason: string;
  personId: number;
  at: Date;
}

/** A grade a person gave a cell; it stays visible when it is taken back. */
export interface GradeDecisionRow {
  id: number;
  lotId: number;
  cellId: number;
  grade: string;
  reason: string;
  personId: number;
  at: Date;
  takenBackAt: Date | null;
  takenBackBy: number | null;
  takenBackWhy: string | null;
  version: number;
}

/** What the cells of a lot are held against, of the lot itself: derived and replaceable. */
export interface LotGroundsRow {
  lotId: number;
  grounds: LotGrounds;
}

/** How a lot’s capacities stood at the end of a day, or stand today. */
export interface LotDayRow {
  lotId: number;
  /** On the lab’s calendar. */
  day: string;
  met: number;
  notMet: number;
  tooClose: number;
  held: number;
  /** Not tested, or not comparable. */
  open: number;
}

/** Schemes of grades, decisions about grades, and what lots give to be held against. */
export class GradeTables extends Tables {
  readonly schemes = new Table<GradeSchemeRow>(
    this.session,
    'grade_schemes',
    {
      id: c.autoId,
      scope: c.text,
      name: c.text,
      schemeVersion: c.whole,
      body: c.long,
      ended: c.flag,
      reason: c.text,
      personId: c.whole,
      at: c.moment,
    },
    ['body'],
  );
  readonly decisions = new Table<GradeDecisionRow>(this.session, 'grade_decisions', {
    id: c.autoId,
    lotId: c.whole,
    cellId: c.whole,
    grade: c.text,
    reason: c.text,
    personId: c.whole,
    at: c.moment,
    takenBackAt: c.moment,
    takenBackBy: c.whole,
    takenBackWhy: c.text,
    version: c.version,
  });
  readonly grounds = new Table<LotGroundsRow>(
    this.session,
    'lot_grounds',
    { lotId: c.ownId, grounds: c.long },
    ['grounds'],
  );
  readonly days = new Table<LotDayRow>(this.session, 'lot_days', {
    lotId: c.ownId,
    day: { type: c.day, primaryKey: true },
    met: c.whole,
    notMet: c.whole,
    tooClose: c.whole,
    held: c.whole,
    open: c.whole,
  });
}
