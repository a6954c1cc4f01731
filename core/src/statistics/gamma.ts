const LANCZOS = [
  0.99999999999980993, 676.5203681218851, -1259.1392167224028, 771.32342877765313,
  -176.61502916214059, 12.507343278686905, -0.13857109526572012, 9.9843695780195716e-6,
  1.5056327351493116e-7,
];

/**
 * Natural logarithm of Γ(x), x > 0, by the Lanczos series (g = 7, n = 9).
 * @example Math.exp(logGamma(6)) // 120
 */
export function logGamma(x: number): number {
  if (x < 0.5) return Math.log(Math.PI / Math.sin(Math.PI * x)) - logGamma(1 - x);
  const y = x - 1;
  const t = y + 7.5;
  let sum = LANCZOS[0]!;
  for (let i = 1; i < LANCZOS.length; i++) sum += LANCZOS[i]! / (y + i);
  return 0.5 * Math.log(2 * Math.PI) + (y + 0.5) * Math.log(t) - t + Math.log(sum);
}

/**
 * Regularised incomplete gamma functions P(a, x) and Q(a, x) = 1 − P, a > 0, x ≥ 0:
 * the series below a + 1, the continued fraction (modified Lentz) above.
 * @example regularisedGammaP(1, 1).lower // 0.63212
 */
export function regularisedGammaP(a: number, x: number): { lower: number; upper: number } {
  if (x <= 0) return { lower: 0, upper: 1 };
  const front = Math.exp(-x + a * Math.log(x) - logGamma(a));
  if (x < a + 1) {
    let term = 1 / a;
    let sum = term;
    for (let n = 1; n < 1000 && Math.abs(term) > Math.abs(sum) * 1e-17; n++) {
      term *= x / (a + n);
      sum += term;
    }
    return { lower: sum * front, upper: 1 - sum * front };
  }
  let b = x + 1 - a;
  let c = 1e300;
  let d = 1 / b;
  let h = d;
  for (let n = 1; n < 1000; n++) {
    const an = -n * (n - a);
    b += 2;
    d = 1 / (an * d + b);
    c = b + an / c;
    const delta = c * d;
    h *= delta;
    if (Math.abs(delta - 1) < 1e-16) break;
  }
  return { lower: 1 - front * h, upper: front * h };
}
