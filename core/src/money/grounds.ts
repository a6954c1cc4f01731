import { type Cents, requireWhole, roundedCents } from './cents';
import type { RemedyKind } from './remedies';

/** What a part of the amount asked of a supplier is for (handbook, chapter 5, "Claiming from the supplier"). */
export const GROUND_KINDS = [
  'missingCharge',
  'deadCells',
  'otherThanClaimed',
  'priceBack',
  'goodsReplaced',
  'wayBack',
  'leavesAsReturning',
  'testing',
  'offered',
  'told',
  'askedBefore',
  'notAsked',
] as const;
/** One of them. */
export type GroundKind = (typeof GROUND_KINDS)[number];

/** A part of the amount, on its own line; what is not asked for is below 0. */
export interface Ground {
  kind: GroundKind;
  /** Cells it is about; null where it is about the lot. */
  cells: number | null;
  cents: Cents;
  /** Missing charge, Ah; of other grounds absent. */
  ah?: number;
}

/** A cell as it speaks against what was sold. */
export interface GroundCell {
  /** What it lacks against the claim, Ah; 0 where it is not judged not met. */
  lackAh: number;
  /** Dead, damaged or dangerous: of no use. */
  isDead: boolean;
  /** Cents its grade brings less than what was claimed brings; 0 where its grade and age are as claimed, or no price is known. */
  lessCents: Cents;
}

/** What an amount can rest on. */
export interface GroundFacts {
  cells: readonly GroundCell[];
  /** Price per claimed Ah, and of one cell, cents; null where the order names no price, or nothing is claimed. */
  centsPerAh: number | null;
  centsPerCell: number | null;
  /** Paid back when the goods go back; null where nobody knows. */
  refundCents: Cents | null;
  wayBackCents: Cents;
  /** What testing cost; null where the terms do not allow to ask for it. */
  testingCents: Cents | null;
  /** A refund that leaves as much in hand as returning, at the least; null where it is not known or they cannot go back. */
  breakEvenCents: Cents | null;
  /** What was offered already. */
  offeredCents: Cents;
}

/** Grounds of the cells themselves: no cell is asked for twice, and none for more than it cost. */
function ofCells({ cells, centsPerAh, centsPerCell }: GroundFacts): Ground[] {
  const [short, dead, other] = [[], [], []] as [number[], number[], number[]];
  const most = centsPerCell ?? Infinity;
  let shortAh = 0;
  for (const { lackAh, isDead, lessCents } of cells) {
    if (isDead && centsPerCell !== null) {
      dead.push(centsPerCell);
      continue;
    }
    const lacks = Math.min(most, lackAh * (centsPerAh ?? 0));
    if (lacks > 0) {
      short.push(lacks);
      shortAh += lackAh;
    }
    const less = Math.min(most, lessCents) - lacks;
    if (less > 0) other.push(less);
  }
  const line = (kind: GroundKind, parts: readonly number[]): Ground[] => {
    const cents = roundedCents(parts.reduce((a, b) => a + b, 0));
    return cents > 0 ? [{ kind, cells: parts.length, cents }] : [];
  };
  return [
    ...line('missingCharge', short).map((ground) => ({ ...ground, ah: shortAh })),
    ...line('deadCells', dead),
    ...line('otherThanClaimed', other),
  ];
}

const of = (kind: GroundKind, cents: Cents): Ground[] =>
  cents > 0 ? [{ kind, cells: null, cents }] : [];

/** Together, cents. */
export const groundsCents = (grounds: readonly Ground[]): Cents =>
  grounds.reduce((sum, { cents }) => sum + requireWhole(cents), 0);

/** What the cells themselves carry: the shortfall, dead cells, cells of another grade or age. */
export const cellGroundsCents = (facts: GroundFacts): Cents => groundsCents(ofCells(facts));

/**
 * What can be asked for, each part with its ground. As a partial refund: what the cells carry, or
 * what leaves as much in hand as returning where that is more, with testing where the terms allow, or
 * what was offered where that is more. As a return: the price and the way back. As a replacement: the
 * goods at their price, and the way back (handbook, chapter 5, "Claiming from the supplier").
 */
export function groundsOf(remedy: Exclude<RemedyKind, 'keep'>, facts: GroundFacts): Ground[] {
  const { refundCents, wayBackCents, testingCents, breakEvenCents, offeredCents } = facts;
  const testing = of('testing', testingCents ?? 0);
  if (remedy !== 'partialRefund')
    return [
      ...of(remedy === 'return' ? 'priceBack' : 'goodsReplaced', refundCents ?? 0),
      ...of('wayBack', wayBackCents),
      ...testing,
    ];
  const own = ofCells(facts);
  const proven = [
    ...own,
    ...of('leavesAsReturning', (breakEvenCents ?? 0) - groundsCents(own)),
    ...testing,
  ];
  return [...proven, ...of('offered', offeredCents - groundsCents(proven))];
}

/**
 * The lines of an amount that is asked, adding up to it to the cent: its grounds, and what is asked
 * beyond or left out of them.
 * @param beyond what the rest is, where more is asked than the grounds carry.
 */
export function carried(
  grounds: readonly Ground[],
  askCents: Cents,
  beyond: 'told' | 'askedBefore',
): Ground[] {
  const rest = requireWhole(askCents) - groundsCents(grounds);
  if (rest === 0) return [...grounds];
  return [...grounds, { kind: rest > 0 ? beyond : 'notAsked', cells: null, cents: rest }];
}
