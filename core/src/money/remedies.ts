import { type Cents, centsTimes, requireWhole, roundedCents } from './cents';

/** A cell’s capacity as it is held against the claim. */
export interface ClaimedCell {
  /** Ah, at the claim’s conditions. */
  capacityAh: number;
  /** Expanded uncertainty (k = 2), Ah; null where none is known. */
  U: number | null;
  /** Judged not met; others are in the upper figure only. */
  isShort: boolean;
}

/** What a lot lacks against its claim, and what that is worth at the price per claimed Ah. */
export interface Shortfall {
  /** Cells judged not met. */
  cells: number;
  ah: number;
  cents: Cents;
  /** The same with every cell at the better, and at the worse end of its uncertainty: all together, as meters err together. */
  lowCents: Cents;
  highCents: Cents;
  /** Over all cells below the claim, whether or not that is sure, each at the worse end of its uncertainty. */
  upperAh: number;
  upperCents: Cents;
}

/** What one cell lacks, Ah: as measured, and at the better and the worse end of its uncertainty. */
export interface Lack {
  ah: number;
  lowAh: number;
  highAh: number;
}

/**
 * What a cell lacks against what it was claimed to hold; never below 0.
 * @param claimAh Ah. @param U expanded uncertainty (k = 2), Ah; null where none is known.
 * @example lackOf({ capacityAh: 98.8, U: 0.7 }, 104).ah // 5.2
 */
export function lackOf({ capacityAh, U }: Omit<ClaimedCell, 'isShort'>, claimAh: number): Lack {
  const at = (shift: number) => Math.max(0, claimAh - capacityAh + shift);
  return { ah: at(0), lowAh: at(-(U ?? 0)), highAh: at(U ?? 0) };
}

/**
 * Shortfall = Σ max(0, claim − measured), on cells judged not met. The upper figure is on all cells
 * below the claim with the uncertainty taken in; meters err together, so it adds up without
 * cancelling (handbook, chapter 5, "Claiming from the supplier").
 * @param claimAh Ah a cell was claimed to hold. @param centsPerAh price per claimed Ah, cents.
 */
export function shortfallOf(
  cells: readonly ClaimedCell[],
  claimAh: number,
  centsPerAh: number,
): Shortfall {
  const short = cells.filter(({ isShort }) => isShort);
  const lacking = (some: readonly ClaimedCell[], end: keyof Lack) =>
    some.reduce((sum, cell) => sum + lackOf(cell, claimAh)[end], 0);
  const below = cells.filter((cell) => lackOf(cell, claimAh).ah > 0);
  const [ah, upperAh] = [lacking(short, 'ah'), lacking(below, 'highAh')];
  return {
    cells: short.length,
    ah,
    cents: roundedCents(ah * centsPerAh),
    lowCents: roundedCents(lacking(short, 'lowAh') * centsPerAh),
    highCents: roundedCents(lacking(short, 'highAh') * centsPerAh),
    upperAh,
    upperCents: roundedCents(upperAh * centsPerAh),
  };
}

/** What is known of a lot that is not what was sold. */
export interface RemedyFacts {
  /** What the cells bring by their grades. */
  resaleCents: Cents;
  /** Paid back when the goods go back. */
  refundCents: Cents;
  returnFreightCents: Cents;
  packingMinutes: number;
  centsPerMinute: Cents;
  /** What the cells without a grade bring at most, and are not counted with; null where nobody knows. */
  ungradedMostCents: Cents | null;
  /** Offered, or to be asked for, where the goods stay. */
  partialRefundCents: Cents;
  /** What a lot as claimed brings; null where no replacement is to be had. */
  replacementCents: Cents | null;
  /** Why the cells may not be shipped; null where they may. */
  mayNotShip: string | null;
  /** What the cells themselves carry: the shortfall, dead cells, cells of another grade or age. */
  lackingCents: Cents;
  /** What testing cost; null where the terms do not allow to ask for it. */
  testingCents: Cents | null;
}

/** A way out of a lot that is not what was sold. */
export type RemedyKind = 'return' | 'partialRefund' | 'keep' | 'replace';

/** One way out, and what it leaves in hand. */
export interface Remedy {
  kind: RemedyKind;
  /** Null where it is struck out. */
  inHandCents: Cents | null;
  /** Why it is struck out; null where it is not. */
  struckOut: string | null;
}

/** The ways out side by side, and what to ask for. */
export interface Remedies {
  options: Remedy[];
  /** A partial refund that leaves as much in hand as returning; null where returning is struck out. Below 0 keeping is better without any. */
  breakEvenCents: Cents | null;
  /** The same, at the least, were all cells without a grade of the best; null, too, where nobody knows what that brings. */
  breakEvenLeastCents: Cents | null;
  /** Chance of the refund below which returning is worse than keeping without one: goods gone, no money. Null where returning is struck out or nothing is paid back; above 1 it never pays. */
  returnNeedsChance: number | null;
  askCents: Cents;
}

/**
 * Return, keep with a partial refund, keep without, replace, each with what it leaves in hand, and
 * what to ask for: the larger of what the cells lack and the break-even refund, plus testing where
 * the terms allow (handbook, chapter 5, "Claiming from the supplier"); never less than was offered.
 * Cells nobody graded may be of the best grade: only what is left of the break-even refund then is a
 * ground to ask by.
 */
export function remediesOf(facts: RemedyFacts): Remedies {
  const { resaleCents, refundCents, returnFreightCents, partialRefundCents } = facts;
  const { replacementCents, mayNotShip, lackingCents, testingCents, ungradedMostCents } = facts;
  for (const cents of [resaleCents, refundCents, returnFreightCents, partialRefundCents])
    requireWhole(cents);
  const wayBack = returnFreightCents + centsTimes(facts.centsPerMinute, facts.packingMinutes);
  const returned = refundCents - wayBack;
  const option = (kind: RemedyKind, cents: Cents, struckOut: string | null = null): Remedy => ({
    kind,
    inHandCents: struckOut === null ? cents : null,
    struckOut,
  });
  const breakEvenCents = mayNotShip === null ? returned - resaleCents : null;
  const breakEvenLeastCents =
    breakEvenCents === null || ungradedMostCents === null
      ? null
      : breakEvenCents - requireWhole(ungradedMostCents);
  return {
    options: [
      option('return', returned, mayNotShip),
      option('partialRefund', resaleCents + partialRefundCents),
      option('keep', resaleCents),
      option(
        'replace',
        (replacementCents ?? 0) - wayBack,
        mayNotShip ?? (replacementCents === null ? 'No replacement is offered.' : null),
      ),
    ],
    breakEvenCents,
    breakEvenLeastCents,
    returnNeedsChance:
      mayNotShip === null && refundCents > 0 ? (resaleCents + wayBack) / refundCents : null,
    askCents: Math.max(
      Math.max(lackingCents, breakEvenLeastCents ?? 0, 0) + (testingCents ?? 0),
      partialRefundCents,
    ),
  };
}
