import type { Transaction } from '@dusk-tally/store';
import type { Change, ChangeKind, Lab } from '../shared';
import type { Origin } from './origin';

/** Cells of a lot that are to be made new; null for all of them. */
export interface Touched {
  lotId: number;
  cellIds: readonly number[] | null;
}

/** One thing that is derived: what it reads, what it makes, and how. */
export interface Derivation {
  name: string;
  reads: readonly ChangeKind[];
  /** Changes it may report, for those who read them. */
  makes: readonly ChangeKind[];
  /**
   * Makes it new where it changed. Rows whose whole input is as it was stay as they are.
   * @returns what changed by it.
   */
  refresh: (
    lab: Lab,
    touched: readonly Touched[],
    transaction: Transaction,
    origin: Origin,
  ) => Promise<Change[]>;
}
