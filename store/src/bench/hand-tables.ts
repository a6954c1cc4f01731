import { columnTypes as c, Table, Tables } from '../base';
import type { HandLogRow, HandPointRow } from './hand-rows';

/** Runs read by hand. */
export class HandTables extends Tables {
  readonly logs = new Table<HandLogRow>(
    this.session,
    'hand_logs',
    {
      id: c.autoId,
      benchRunId: c.whole,
      cellId: c.whole,
      lotId: c.whole,
      loadOnAt: c.moment,
      setA: c.real,
      setCutoffV: c.real,
      countAtStartAh: c.real,
      shapeRuns: c.long,
      endedAt: c.moment,
      readingId: c.whole,
      personId: c.whole,
      at: c.moment,
      version: c.version,
    },
    ['shapeRuns'],
  );
  readonly points = new Table<HandPointRow>(
    this.session,
    'hand_points',
    {
      id: c.autoId,
      handLogId: c.whole,
      at: c.moment,
      values: c.long,
      decimals: c.long,
      isStop: c.flag,
      keptDespite: c.text,
      clientKey: c.text,
      personId: c.whole,
      typedAt: c.moment,
      takenBackAt: c.moment,
      takenBackBy: c.whole,
    },
    ['values', 'decimals'],
  );
}
