/** An effect with its standard error; one that does not count says nothing of the others. */
export interface OpenEffect {
  effect: number;
  error: number;
  counts: boolean;
}

/** An effect after shrinking towards none. */
export interface ShrunkEffect {
  value: number;
  /** Standard uncertainty of the true effect about `value`. */
  error: number;
  /** Share of the effect that is its own rather than chance, 0 to 1. */
  reliability: number;
}

/** How far channels of one bench usually lie apart: scale of the prior of their spread. */
const USUAL_SPREAD = 0.01;
const WIDEST = 0.05;
const STEPS = 80;

/**
 * Empirical Bayes with the spread between channels itself left open: effects are normal about
 * none with an unknown standard deviation τ, half-normal with scale 1 % beforehand; every τ counts
 * by its likelihood. So where nothing can be told apart what is kept is what the data leave open,
 * not nothing.
 * @example shrinkTowardsNone([{ effect: 0.02, error: 1e-6, counts: true }])[0].value // 0.02: an effect known well is kept
 */
export function shrinkTowardsNone(effects: readonly OpenEffect[]): ShrunkEffect[] {
  const grid = Array.from({ length: STEPS }, (_, i) => ((i + 0.5) / STEPS) * WIDEST);
  const logs = grid.map((tau) => {
    let log = -0.5 * (tau / USUAL_SPREAD) ** 2;
    for (const { effect, error, counts } of effects) {
      if (!counts) continue;
      const variance = tau * tau + error * error;
      log -= 0.5 * (Math.log(variance) + (effect * effect) / variance);
    }
    return log;
  });
  const most = Math.max(...logs);
  const weights = logs.map((log) => Math.exp(log - most));
  const total = weights.reduce((a, b) => a + b, 0);
  return effects.map(({ effect, error }) => {
    let [mean, square, reliability] = [0, 0, 0];
    grid.forEach((tau, i) => {
      const r = (tau * tau) / (tau * tau + error * error);
      const weight = weights[i]! / total;
      reliability += weight * r;
      mean += weight * r * effect;
      square += weight * (r * error * error + (r * effect) ** 2);
    });
    return {
      value: mean,
      error: Math.sqrt(Math.max(0, square - mean * mean)),
      reliability,
    };
  });
}
