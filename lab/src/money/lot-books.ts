import {
  type Cents,
  type CostPart,
  type PaybackChance,
  type Ground,
  type Remedies,
  type Shortfall,
  type testingCost,
  type UnitCosts,
} from '@dusk-tally/core/money';
import type { DisputeRow } from '@dusk-tally/store';
import type { KeptBooks } from '../lots';
import type { typedBooks } from './typed-books';

/** A cell in the books. */
export interface BookLine {
  cellId: number;
  number: string;
  grade: string | null;
  capacityAh: number | null;
  /** Expanded uncertainty of it (k = 2), Ah. */
  capacityU: number | null;
  /** `atLeast` where it may hold more. */
  bound: string | null;
  stateOfHealth: number | null;
  wh: number | null;
  /** Its share of the landed cost, all shares adding up to it. */
  costCents: Cents;
  /** What its grade brings; null without a grade or a price. */
  bringsCents: Cents | null;
}

/** What the cells of a grade bring together. */
export interface GradeValue {
  grade: string;
  cells: number;
  priceCents: Cents | null;
  cents: Cents;
}

/** The books of a lot. */
export interface LotBooks {
  currency: string;
  kept: KeptBooks;
  /** The same, as people type it. */
  typed: ReturnType<typeof typedBooks>;
  /** False where the order names no price: then nothing below says what it cost. */
  hasPrice: boolean;
  parts: CostPart[];
  totalCents: Cents;
  units: UnitCosts;
  /** Cells whose energy was measured, and those it is charge times nominal voltage of. */
  energy: { measured: number; computed: number; nominalV: number };
  /** Results that are held, and in no figure here. */
  held: string[];
  values: GradeValue[];
  /** Cells without a grade yet: they count as bringing nothing, so that keeping leaves at least what is told. */
  ungraded: number;
  /** Together; null as long as a grade that occurs has no price. */
  resaleCents: Cents | null;
  /** Null, too, where the order names no price. */
  marginCents: Cents | null;
  /** Bench hours and electricity, beside what it cost to have it here. */
  testing: ReturnType<typeof testingCost> & { benchHours: number };
  /** Margin less that. */
  marginAfterTestingCents: Cents | null;
  /** A kWh of the throughput the supplier claims, cents; null without claimed cycles. */
  throughputCents: number | null;
  /** Own minutes the times of acts on it tell of. */
  proposedMinutes: number;
  /** The same in the house’s currency; null where they are one, or nobody gave the day’s rate. */
  inHouse: { currency: string; totalCents: Cents; perKwhGoodCents: Cents | null } | null;
  houseCurrency: string;
  centsPerClaimedAh: number | null;
  /** Paid for one cell of those ordered, cents; null where the order names no price. */
  centsPerCell: number | null;
  /** What that is worked out of: the price paid, for so many cells of so many Ah. */
  pricedFor: { cents: Cents; cells: number; ah: number } | null;
  shortfall: Shortfall | null;
  /** Null where no cell was tested, or what keeping brings, or what returning pays, is not known. */
  remedies: Remedies | null;
  /** What an amount asked of the supplier can rest on, each part with its ground, by what is asked for. */
  grounds: Record<DisputeRow['remedy'], Ground[]>;
  /** How likely this supplier pays, by disputes that ended. */
  payback: PaybackChance;
  lines: BookLine[];
}
