export interface ParallelChargeRow {
  id: number;
  lotId: number;
  cells: number;
  ratedAh: number;
  fromSoc: number;
  supplyA: number;
  startedAt: Date;
  fullAt: Date | null;
  personId: number;
}

/** What was read of a string at one state of charge; null where a place was not read. */
export interface StringStep {
  stateOfChargePct: number;
  lowA: number;
  highA: number;
  lowV: number[];
  highV: number[];
  jointC: (number | null)[];
}

/** A load test of cells in series. */
export interface StringTestRow {
  id: number;
  lotId: number;
  title: string;
  /** A log of the string that holds the voltages, where there is one. */
  runId: number | null;
  torqueNm: number | null;
  cableMm2: number | null;
  /** One way, m. */
  cableM: number | null;
  /** To its protection's cut-off, Ah, with its standard uncertainty. */
  packAh: number | null;
  packAhU: number | null;
  /** Moved by balancing meanwhile, Ah. */
  balancedAh: number | null;
  steps: StringStep[];
  personId: number;
  createdAt: Date;
  updatedAt: Date;
  version: number;
}

/** Which cell stood where; places count from 1. */
export interface StringTestCellRow {
  stringTestId: number;
  place: number;
  cellId: number;
}
