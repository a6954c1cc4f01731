import type { PointField } from '@dusk-tally/core/evidence';

/** The hand log of a run that no agent drives. */
export interface HandLogRow {
  id: number;
  benchRunId: number;
  cellId: number;
  lotId: number;
  /** When the load came on. */
  loadOnAt: Date;
  /** As set on the tester, A and V; null where nobody said. */
  setA: number | null;
  setCutoffV: number | null;
  /** What its counter showed then, Ah. */
  countAtStartAh: number;
  /** Runs of the lot whose shape the result was read by, as they were at its end. */
  shapeRuns: number[];
  endedAt: Date | null;
  /** The capacity it became; null before its end, and where it gave none. */
  readingId: number | null;
  personId: number;
  at: Date;
  version: number;
}

/** What somebody read as they walked past. */
export interface HandPointRow {
  id: number;
  handLogId: number;
  at: Date;
  values: Partial<Record<PointField, number>>;
  decimals: Partial<Record<PointField, number>>;
  isStop: boolean;
  keptDespite: string | null;
  /** Made by the browser, so that a repeated send is stored once. */
  clientKey: string;
  personId: number;
  typedAt: Date;
  takenBackAt: Date | null;
  takenBackBy: number | null;
}
