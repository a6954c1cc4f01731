import { betaQuantile } from '../statistics';

/** Disputes that ended with money or without; those that were dropped are neither. */
export interface EndedDisputes {
  ended: number;
  paid: number;
}

/** How likely a supplier pays in the end, as far as disputes tell. */
export interface PaybackChance {
  /** 0 to 1. */
  chance: number;
  /** 95 % interval. */
  low: number;
  high: number;
  own: EndedDisputes;
  /** Of all suppliers, the own ones among them. */
  all: EndedDisputes;
}

/** Disputes of all others count like so many of the supplier’s own, as with shares of claims met. */
const PRIOR_STRENGTH = 2;

/**
 * Chance that a supplier pays, drawn toward what all of them did by a Beta prior of strength 2, as the
 * shares of claims met are (handbook, chapter 5, "Supplier record"). The mean of all begins at even odds,
 * so that nobody is certain of what never happened.
 * @throws RangeError where more were paid than ended.
 * @example paybackChance({ ended: 0, paid: 0 }, { ended: 0, paid: 0 }).chance // 0.5
 */
export function paybackChance(own: EndedDisputes, all: EndedDisputes): PaybackChance {
  for (const { ended, paid } of [own, all])
    if (!(paid >= 0) || paid > ended)
      throw new RangeError(`Expected 0 ≤ paid ≤ ended; found ${paid} of ${ended}.`);
  const mean = (all.paid + 1) / (all.ended + 2);
  const a = PRIOR_STRENGTH * mean + own.paid;
  const b = PRIOR_STRENGTH * (1 - mean) + own.ended - own.paid;
  return {
    chance: a / (a + b),
    low: betaQuantile(0.025, a, b),
    high: betaQuantile(0.975, a, b),
    own,
    all,
  };
}
