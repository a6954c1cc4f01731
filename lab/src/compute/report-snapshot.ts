import type { Bin } from '@dusk-tally/core/statistics';
import type { ReportLanguageCode } from './report-words';

/** One result of an item, ready to print: value and expanded uncertainty (k = 2). */
export interface ReportedFigure {
  value: number;
  U: number | null;
  unit: string;
  bound: 'exact' | 'atLeast' | 'atMost';
  method: string;
  methodVersion: number;
  /** The stored result it is, which never changes; absent before format version 6. */
  resultId?: number;
}

export interface ReportedItem {
  number: string;
  label: string | null;
  testedOn: string | null;
  /** At the claim’s conditions where the result could be carried there, else as measured. */
  capacity: ReportedFigure | null;
  /** As measured, where it was carried; absent before format version 3. */
  capacityMeasured?: ReportedFigure | null;
  /** What carried it there, in words; absent before format version 3. */
  corrections?: string[];
  energy: ReportedFigure | null;
  dcResistance10s: ReportedFigure | null;
  acResistance: ReportedFigure | null;
  openCircuitVoltage: ReportedFigure | null;
  stateOfHealthPct: number | null;
  verdicts: { capacity: string | null; acResistance: string | null };
  grade: string | null;
  reasons: string[];
  waitingFor: string[];
  differences: string[];
  /** Condition when it came, in words; absent in snapshots of format version 1. */
  onArrival?: string[];
  /** What standing full came to; empty where it did not stand, absent before format version 5. */
  rest?: string[];
  /** Rank among the tested cells of the lot, 1 = most capacity. */
  rank: number | null;
  /** Charge (Ah) and voltage (V) of the discharge, thinned. */
  curve: { ah: number[]; v: number[] } | null;
}

/** Everything a buyer's report says, frozen when it is issued. */
export interface ReportSnapshot {
  format: 'dusk-tally/buyer-report';
  formatVersion: 1 | 2 | 3 | 4 | 5 | 6 | 7 | 8;
  /** What it is printed in; absent before format version 4, which is English. Texts here are English. */
  language?: ReportLanguageCode;
  number: string;
  issuedAt: string;
  /** The lab’s, whose clock days and times are told by; absent before format version 8, which tells UTC. */
  timeZone?: string;
  /** `mark` is a PNG as a data address; absent before format version 4 and where there is none. */
  lab: { name: string; place: string; mark?: { png: string; width: number; height: number } };
  customer: string;
  issuedBy: string;
  testedBy: string[];
  lot: { code: string; title: string; receivedOn: string | null; cells: number };
  model: { name: string; chemistry: string; format: string };
  claim: { name: string; value: string; conditions: string }[];
  claimedCapacityAh: number | null;
  cutoffV: number;
  method: string[];
  instruments: { name: string; serial: string | null; accuracy: string; calibration: string }[];
  decisionRule: string[];
  gradeScheme: string;
  /** What each grade that occurs means, and who carries the doubt; since version 7. */
  gradeMeanings?: { grade: string; conditions: string[]; note: string | null }[];
  gradeDoubt?: string;
  items: ReportedItem[];
  lotPosition: {
    tested: number;
    mean: number | null;
    standardDeviation: number | null;
    minimum: number | null;
    bins: Bin[];
  };
  notTested: string[];
  cautions: string[];
}

/** Cautions for use and storage that every report carries (handbook, Safety). */
export const CAUTIONS = [
  'Local codes, the maker’s data sheet and a licensed practitioner come first. This report does not say that any use is safe.',
  'Charge lithium-ion cells only between 0 and 45 °C, never unattended the first time. A cell that gets hot on charge is finished.',
  'Check that voltages are equal before joining cells in parallel; insulate tools; tighten terminals to the data sheet’s torque.',
  'Store part charged, cool and dry. Lithium cells are dangerous goods for transport; ask a qualified shipper.',
  'At the end of life hand cells to a licensed battery recycler with terminals taped; never put them in household waste.',
];
