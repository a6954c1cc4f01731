import type { Chemistry } from '@dusk-tally/core/chemistry';
import type { StringWatch } from '@dusk-tally/core/evidence';
import type { Finding } from '@dusk-tally/core/units';

/** The log of all cells of a string, as a monitor wrote it. */
export interface StringLogRow {
  id: number;
  lotId: number;
  /** What the period is called, such as “before conditioning”. */
  name: string;
  fileName: string;
  /** Of the file; null once the log was taken back, so that it can be taken in again. */
  sha256: string | null;
  bytes: number;
  rows: number;
  durationS: number;
  startedAt: Date | null;
  /** Headers of the cells’ columns, in the order of the log. */
  cellHeaders: string[];
  /** Cell of the lot each column is of; null where nobody said. */
  cellIds: (number | null)[];
  decimalsV: number;
  /** Time each block of rows begins at, s. */
  beginsS: number[];
  /** Class by which near full was told. */
  chemistry: Chemistry;
  /** What the whole log tells. */
  watch: StringWatch;
  findings: Finding[];
  /** The whole log thinned for a picture. */
  overview: Buffer;
  takenBackAt: Date | null;
  takenBackBy: number | null;
  takenBackWhy: string | null;
  personId: number;
  at: Date;
  version: number;
}

/** A stored piece of one column of such a log. */
export interface StringBlockRow {
  stringLogId: number;
  columnName: string;
  blockIndex: number;
  payload: Buffer;
}
