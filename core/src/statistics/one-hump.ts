import { logGamma } from './gamma';

/** Parameters of each: two of a shape, and where it begins. */
const PARAMETERS = 3;

/** ψ(x), x > 0: recurrence up to 6, then the asymptotic series. */
function digamma(x: number): number {
  let [sum, at] = [0, x];
  while (at < 6) sum -= 1 / at++;
  return sum + Math.log(at) - 1 / (2 * at) - 1 / (12 * at ** 2) + 1 / (120 * at ** 4);
}

/** Shape of a gamma distribution by maximum likelihood. @param gap ln of the mean less the mean of ln. */
function gammaShape(gap: number): number {
  let shape = (3 - gap + Math.sqrt((gap - 3) ** 2 + 24 * gap)) / (12 * gap);
  for (let round = 0; round < 6; round++) {
    const d = 1e-4 * shape;
    const slope = (digamma(shape + d) - digamma(shape - d)) / (2 * d);
    shape -= (Math.log(shape) - digamma(shape) - gap) / (1 / shape - slope);
  }
  return shape;
}

/** ln of the likelihood of values above 0 as a gamma and as a log-normal sample, the larger. */
function skewLikelihood(values: readonly number[]): number {
  const n = values.length;
  const centre = values.reduce((a, b) => a + b, 0) / n;
  const logs = values.map(Math.log);
  const logCentre = logs.reduce((a, b) => a + b, 0) / n;
  const variance = logs.reduce((sum, log) => sum + (log - logCentre) ** 2, 0) / n;
  const shape = gammaShape(Math.max(1e-9, Math.log(centre) - logCentre));
  const scale = centre / shape;
  const gamma = n * ((shape - 1) * logCentre - shape - shape * Math.log(scale) - logGamma(shape));
  const logNormal = -n * logCentre - (n / 2) * (Math.log(2 * Math.PI * variance) + 1);
  return Math.max(gamma, logNormal);
}

/**
 * BIC of the best single hump that is not normal: even between two ends, or skew either way, a gamma
 * or log-normal distribution of the distance from the end (handbook, chapter 5, *Mixed lot*).
 * @param sorted ascending, with some spread. @param weight cells each value stands for.
 */
export function oneHumpBic(sorted: readonly number[], weight = 1): number {
  const n = sorted.length;
  const [first, last] = [sorted[0]!, sorted[n - 1]!];
  const range = last - first;
  // The end lies about a step beyond the outermost value.
  const step = range / n;
  const likelihoods = [
    -n * Math.log(range + step),
    skewLikelihood(sorted.map((x) => x - first + step)),
    skewLikelihood(sorted.map((x) => last - x + step)),
  ];
  return -2 * weight * Math.max(...likelihoods) + PARAMETERS * Math.log(weight * n);
}
