import { logGamma } from './gamma';

/** Continued fraction of the incomplete beta function (modified Lentz). */
function betaFraction(x: number, a: number, b: number): number {
  const tiny = 1e-300;
  let c = 1;
  let d = 1 - ((a + b) * x) / (a + 1);
  d = 1 / (Math.abs(d) < tiny ? tiny : d);
  let h = d;
  for (let m = 1; m < 2000; m++) {
    const even = (m * (b - m) * x) / ((a + 2 * m - 1) * (a + 2 * m));
    d = 1 / (1 + even * d);
    c = 1 + even / c;
    h *= d * c;
    const odd = (-(a + m) * (a + b + m) * x) / ((a + 2 * m) * (a + 2 * m + 1));
    d = 1 / (1 + odd * d);
    c = 1 + odd / c;
    const delta = d * c;
    h *= delta;
    if (Math.abs(delta - 1) < 1e-15) break;
  }
  return h;
}

/**
 * Regularised incomplete beta function I_x(a, b), a and b > 0, x from 0 to 1.
 * @example regularisedBeta(0.5, 2, 3) // 0.6875
 */
export function regularisedBeta(x: number, a: number, b: number): number {
  if (x <= 0) return 0;
  if (x >= 1) return 1;
  const front = Math.exp(
    logGamma(a + b) - logGamma(a) - logGamma(b) + a * Math.log(x) + b * Math.log1p(-x),
  );
  return x < (a + 1) / (a + b + 2)
    ? (front * betaFraction(x, a, b)) / a
    : 1 - (front * betaFraction(1 - x, b, a)) / b;
}

/**
 * The x with I_x(a, b) = p, by bisection to the last bit that matters.
 * @example betaQuantile(0.5, 2, 2) // 0.5
 */
export function betaQuantile(p: number, a: number, b: number): number {
  let low = 0;
  let high = 1;
  for (let i = 0; i < 100 && high - low > 1e-16; i++) {
    const middle = (low + high) / 2;
    if (regularisedBeta(middle, a, b) < p) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

/**
 * Quantile of Student's t with `degrees` degrees of freedom, through
 * t² = ν·(1 − x)/x with x a beta(ν/2, ½) quantile.
 * @example studentQuantile(0.975, 10) // 2.2281
 */
export function studentQuantile(p: number, degrees: number): number {
  if (p === 0.5) return 0;
  const tail = p < 0.5 ? p : 1 - p;
  const x = betaQuantile(2 * tail, degrees / 2, 0.5);
  const t = Math.sqrt((degrees * (1 - x)) / x);
  return p < 0.5 ? -t : t;
}
