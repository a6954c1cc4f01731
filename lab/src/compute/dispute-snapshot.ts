import type { GroundKind } from '@dusk-tally/core/money';
import type { ReportSnapshot } from './report-snapshot';

/** One claimed item of the lot, and where it stands. */
export interface DisputedItem {
  words: string;
  claimed: string;
  met: number;
  notMet: number;
  tooClose: number;
  /** Mean with its interval, where it is a number. */
  mean: { value: number; low: number; high: number; unit: string } | null;
  /** What contradicts it, most first. */
  why: string[];
}

/** A claimed item cells miss, with every cell that does. */
export interface MissedItem {
  words: string;
  claimed: string;
  /** `text` is the figure with its uncertainty, or what contradicts the words; cells of the same text together. */
  found: { text: string; cells: string[] }[];
}

/** A part of the amount on its own line, with its ground in words; what is not asked for is below 0. */
export interface DisputeGround {
  kind: GroundKind;
  text: string;
  amount: string;
}

/** A picture kept with the offer or the delivery, as a data address. */
export interface DisputePicture {
  name: string;
  jpeg: string;
  width: number;
  height: number;
}

/** Everything a dispute file says, frozen; texts are English and said in its language when it is set. */
export interface DisputeSnapshot {
  format: 'dusk-tally/dispute-file';
  formatVersion: 1 | 2 | 3 | 4;
  language: 'en' | 'de';
  number: string;
  issuedAt: string;
  issuedBy: string;
  supplier: { name: string; place: string | null };
  order: {
    orderedOn: string | null;
    ordered: number | null;
    price: string | null;
    /** Taken off the price, and what was paid for it then; absent before format version 4 and where nothing was. */
    discount?: string;
    paid?: string;
    currency: string;
  };
  /** Last day of the window; null where none is claimed. */
  deadlineOn: string | null;
  /** The offer as it was kept: its words, and pictures. */
  offer: { texts: string[]; pictures: DisputePicture[] };
  /** The lot’s verdict: its sentence, and what it rests on, what decides most first. */
  verdict: { sentence: string; facts: string[] };
  items: DisputedItem[];
  /** Short of the claim, Ah, of the cells judged not met. */
  shortAh: { number: string; ah: number }[];
  /** Every other item that cells miss, cell by cell; absent before format version 4. */
  missed?: MissedItem[];
  /** What counting, weighing, inspection and codes found. */
  arrival: string[];
  shortfall: {
    cells: number;
    tested: number;
    ah: number;
    amount: string;
    low: string;
    high: string;
    /** Of all cells below the claim; with their uncertainty from format version 3 on. */
    upperAh: number;
    upper: string;
    perAh: string;
    /** Paid for so many cells of so many Ah, of which `perAh` comes; absent before format version 2. */
    pricedFor?: { amount: string; cells: number; ah: number };
  } | null;
  remedy: { kind: 'return' | 'partialRefund' | 'replace'; amount: string };
  /** What the amount is made of, adding up to it to the cent; absent before format version 4. */
  grounds?: DisputeGround[];
  /** Cells, claim, method, meters and curves, as a report would tell them. */
  evidence: ReportSnapshot;
}
