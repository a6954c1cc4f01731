/** What people say of a lot’s money beside its order, in whole cents of the lot’s currency. */
export interface LotBooksRow {
  id: number;
  lotId: number;
  /** Own time spent on it, and what a minute costs. */
  minutes: number;
  centsPerMinute: number;
  /** State of health from which a cell is good. */
  line: number;
  /** What a cell brings, by grade; a grade without a price is absent. */
  gradePrices: Record<string, number>;
  /** Paid back when the goods go back; null where nobody said, then the price paid. */
  refundCents: number | null;
  returnFreightCents: number;
  packingMinutes: number;
  partialRefundCents: number;
  /** What a lot as claimed brings; null where no replacement is to be had. */
  replacementCents: number | null;
  /** Whether the terms allow to ask for what testing cost. */
  asksTesting: boolean;
  /** What one of the lot’s currency was worth in the house’s, and on which day; null where they are one. */
  rate: number | null;
  rateOn: string | null;
  /** What an hour of a channel, and a kWh from the wall, cost. */
  benchCentsPerHour: number;
  centsPerKwh: number;
  /** Days until the money is there when the goods go back, and when they stay; null where nobody said. */
  returnDays: number | null;
  partialDays: number | null;
  /** Cycles the supplier claims; null where none are. */
  claimedCycles: number | null;
  personId: number;
  at: Date;
  version: number;
}
