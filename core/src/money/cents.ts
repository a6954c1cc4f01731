/** An amount in whole cents of one currency. */
export type Cents = number;

const AMOUNT = /^([+−-]?)(\d{1,12})(?:\.(\d{1,2}))?$/;

/**
 * An amount as it is stored, decimal text with up to two places, in cents: never through a binary
 * fraction. @throws RangeError for anything else.
 * @example centsOf('410.5') // 41050
 */
export function centsOf(text: string): Cents {
  const parts = AMOUNT.exec(text.trim());
  if (!parts) throw new RangeError(`Expected an amount such as 410.00; found “${text}”.`);
  const cents = 100 * Number(parts[2]) + Number((parts[3] ?? '').padEnd(2, '0'));
  return parts[1] === '-' || parts[1] === '−' ? 0 - cents : cents;
}

/**
 * Cents as decimal text with two places.
 * @example centsText(-1217) // '−12.17'
 */
export function centsText(cents: Cents): string {
  requireWhole(cents);
  const whole = Math.abs(cents);
  const text = `${Math.floor(whole / 100)}.${String(whole % 100).padStart(2, '0')}`;
  return cents < 0 ? `−${text}` : text;
}

/** @throws RangeError for what is no whole number of cents. */
export function requireWhole(cents: Cents): Cents {
  if (!Number.isSafeInteger(cents)) throw new RangeError('Expected whole cents.');
  return cents;
}

/**
 * The nearest cent of a price times a quantity; half a cent goes away from zero.
 * @example roundedCents(40.8654 * 29.79) // 1217
 */
export const roundedCents = (cents: number): Cents =>
  cents < 0 ? 0 - Math.round(-cents) : Math.round(cents);

/**
 * Cents times a number as it is written in decimals, to the nearest cent, half a cent away from zero:
 * in whole numbers, so that no binary fraction loses one (150 · 0.35 is 52.499… in binary).
 * @throws RangeError for what is not finite, or too large.
 * @example centsTimes(150, 0.35) // 53
 */
export function centsTimes(cents: Cents, factor: number): Cents {
  requireWhole(cents);
  if (!Number.isFinite(factor)) throw new RangeError('Expected a finite number.');
  const [digits, power = '0'] = Math.abs(factor).toExponential().split('e') as [string, string?];
  const [whole, fraction = ''] = digits.split('.') as [string, string?];
  const places = fraction.length - Number(power);
  const product = BigInt(Math.abs(cents)) * BigInt(whole + fraction);
  const unit = 10n ** BigInt(Math.abs(places));
  const rounded = places <= 0 ? product * unit : (2n * product + unit) / (2n * unit);
  const size = requireWhole(Number(rounded));
  return size === 0 || cents < 0 === factor < 0 ? size : 0 - size;
}

/**
 * Splits an amount by weights so that the parts add up to it to the cent: what is left after rounding
 * down goes to the largest remainders, the first of equal ones first.
 * @param weights 0 or more, not all 0. @throws RangeError for others.
 * @example splitCents(100, [1, 1, 1]) // [34, 33, 33]
 */
export function splitCents(total: Cents, weights: readonly number[]): Cents[] {
  requireWhole(total);
  const sum = weights.reduce((all, one) => all + one, 0);
  if (!(sum > 0) || weights.some((one) => !(one >= 0)))
    throw new RangeError('Expected weights of 0 or more, not all 0.');
  const sign = total < 0 ? -1 : 1;
  const exact = weights.map((one) => (sign * total * one) / sum);
  const parts = exact.map(Math.floor);
  let left = sign * total - parts.reduce((all, one) => all + one, 0);
  const byRemainder = exact
    .map((one, i) => ({ i, remainder: one - Math.floor(one) }))
    .sort((a, b) => b.remainder - a.remainder || a.i - b.i);
  for (const { i } of byRemainder) {
    if (left <= 0) break;
    parts[i]!++;
    left--;
  }
  return parts.map((one) => (one === 0 ? 0 : sign * one));
}
