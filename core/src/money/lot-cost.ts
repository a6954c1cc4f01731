import { type Cents, centsTimes, requireWhole, roundedCents } from './cents';

/** What a lot cost by the time it lies here (handbook, chapter 5, "Money"). */
export interface LotOutlay {
  priceCents: Cents;
  discountCents: Cents;
  freightCents: Cents;
  dutyCents: Cents;
  feesCents: Cents;
  /** Own time spent on it, and what a minute of it costs. */
  minutes: number;
  centsPerMinute: Cents;
}

/** A part of what it cost; a discount is below 0. */
export interface CostPart {
  name: 'price' | 'discount' | 'freight' | 'duty' | 'fees' | 'own time';
  cents: Cents;
}

/**
 * Landed cost = price − discount + freight + duty + fees + own minutes × rate.
 * @throws RangeError for amounts below 0 or parts of a cent.
 * @example landedCost({ priceCents: 136000, discountCents: 0, freightCents: 9640, dutyCents: 0, feesCents: 1224, minutes: 310, centsPerMinute: 75 }).totalCents // 170114
 */
export function landedCost(outlay: LotOutlay): { parts: CostPart[]; totalCents: Cents } {
  const { priceCents, discountCents, freightCents, dutyCents, feesCents, minutes, centsPerMinute } =
    outlay;
  const all = [priceCents, discountCents, freightCents, dutyCents, feesCents, centsPerMinute];
  for (const cents of all)
    if (requireWhole(cents) < 0) throw new RangeError('Expected amounts of 0 or more.');
  if (!(minutes >= 0)) throw new RangeError('Expected 0 minutes or more.');
  const parts: CostPart[] = [
    { name: 'price', cents: priceCents },
    { name: 'discount', cents: 0 - discountCents },
    { name: 'freight', cents: freightCents },
    { name: 'duty', cents: dutyCents },
    { name: 'fees', cents: feesCents },
    { name: 'own time', cents: centsTimes(centsPerMinute, minutes) },
  ];
  return { parts, totalCents: parts.reduce((sum, { cents }) => sum + cents, 0) };
}

/** A cell as its lot’s books count it. */
export interface BookedCell {
  /** Energy it holds, Wh; null where it was not tested. */
  wh: number | null;
  /** Capacity against the rated one; null where it was not tested. */
  stateOfHealth: number | null;
}

/** What one unit of a lot cost, cents; null where there is none of it. */
export interface UnitCosts {
  cells: number;
  tested: number;
  /** Cells at or above the line. */
  good: number;
  kwhTested: number;
  kwhGood: number;
  perCellCents: Cents | null;
  perGoodCellCents: Cents | null;
  perKwhTestedCents: Cents | null;
  perKwhGoodCents: Cents | null;
}

/** Usable from here on, where nobody set another line (handbook, chapter 5). */
export const GOOD_LINE = 0.8;

/**
 * A lot’s landed cost per cell, per good cell, per kWh tested and per kWh in good cells. Where only
 * some cells were tested, what is good and what a kWh costs is told by those, at their share of the
 * cost: what nobody tested is neither good nor bad.
 * @param line state of health from which a cell is good.
 */
export function unitCosts(
  totalCents: Cents,
  cells: readonly BookedCell[],
  line = GOOD_LINE,
): UnitCosts {
  requireWhole(totalCents);
  const good = cells.filter(({ stateOfHealth }) => stateOfHealth !== null && stateOfHealth >= line);
  const kwhOf = (some: readonly BookedCell[]) =>
    some.reduce((sum, { wh }) => sum + (wh ?? 0), 0) / 1000;
  const tested = cells.filter(({ wh }) => wh !== null).length;
  const per = (units: number, share = 1): Cents | null =>
    units > 0 ? roundedCents((totalCents * share) / units) : null;
  const share = cells.length > 0 ? tested / cells.length : 0;
  const [kwhTested, kwhGood] = [kwhOf(cells), kwhOf(good)];
  return {
    cells: cells.length,
    tested,
    good: good.length,
    kwhTested,
    kwhGood,
    perCellCents: per(cells.length),
    perGoodCellCents: per(good.length, share),
    perKwhTestedCents: per(kwhTested, share),
    perKwhGoodCents: per(kwhGood, share),
  };
}
