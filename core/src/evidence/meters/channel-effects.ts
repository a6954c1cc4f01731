import { median, studentQuantile } from '../../statistics';
import { shrinkTowardsNone } from './shrink';

/** How far one channel reads from the others, as a share of the value: 0.035 reads 3.5 % high. */
export interface ChannelEffect {
  channel: string;
  results: number;
  /** Cells of those results; absent in old fits. */
  cells?: number;
  /** Fitted; all channels sum to zero. */
  effect: number;
  standardError: number;
  /** From the middle of the channels weighted by their results, which no handful of new ones moves. */
  fromMedian: number;
  /** Share of the effect that is the channel rather than chance, 0 to 1. */
  reliability: number;
  /** `fromMedian` shrunk by the reliability. */
  shrunk: number;
  /** Standard uncertainty of `shrunk` as a share: what the data leave open. */
  shrunkError: number;
  /** Results are corrected by it. */
  corrects: boolean;
  /** So far off that nothing is corrected: its results wait until somebody has looked. */
  beyond?: boolean;
  /** Standard deviation of one result about the fit, as a share; absent in old fits. */
  repeatability?: number;
}

/** A channel corrects with at least so many results on so many cells, and up to this share. */
export const CHANNEL_LIMITS = { results: 3, cells: 2, most: 0.05 };

/** Weighted median: the value with half of the weight on each side. */
function weightedMedian(values: readonly number[], weights: readonly number[]): number {
  const order = [...values.keys()].sort((a, b) => values[a]! - values[b]!);
  const half = weights.reduce((a, b) => a + b, 0) / 2;
  if (!(half > 0)) return median([...values]);
  let sum = 0;
  for (const [place, i] of order.entries()) {
    sum += weights[i]!;
    if (sum > half + 1e-12) return values[i]!;
    if (Math.abs(sum - half) <= 1e-12) return (values[i]! + values[order[place + 1] ?? i]!) / 2;
  }
  return 0;
}

/** Channels further from the middle than this many spreads do not say where it is. */
const MIDDLE_REACH = 4.685;
/** Least spread taken for channels that lie close together, as a share. */
const LEAST_SPREAD = 0.003;

/**
 * The middle of the channels, weighted by their results: a bisquare mean from the weighted median
 * on, so that neither a bad channel nor a handful of new ones moves it.
 */
function middleOf(effects: readonly number[], weights: readonly number[]): number {
  let middle = weightedMedian(effects, weights);
  const apart = effects.map((effect) => Math.abs(effect - middle));
  const spread = Math.max(LEAST_SPREAD, 1.4826 * weightedMedian(apart, weights));
  for (let round = 0; round < 40; round++) {
    let [sum, total] = [0, 0];
    effects.forEach((effect, i) => {
      const u = (effect - middle) / (MIDDLE_REACH * spread);
      const weight = Math.abs(u) < 1 ? weights[i]! * (1 - u * u) ** 2 : 0;
      sum += weight * effect;
      total += weight;
    });
    if (!(total > 0)) break;
    middle = sum / total;
  }
  return middle;
}

/** What a fit leaves of one channel before it is stated. */
export interface FittedChannel {
  channel: string;
  results: number;
  cells: number;
  /** ln of the factor, all of a part summing to zero. */
  effect: number;
}

/**
 * States fitted channels from the middle of them weighted by their results, shrunk by what the
 * data leave open (handbook, chapter 3, *Control cells*).
 * @param covariance of the effects. @param degreesOfFreedom of the fit, for Student’s factor.
 */
export function stateChannels(
  channels: readonly FittedChannel[],
  covariance: readonly (readonly number[])[],
  { repeatability, degreesOfFreedom }: { repeatability: number; degreesOfFreedom: number },
): ChannelEffect[] {
  const weights = channels.map(({ results }) => results);
  const total = weights.reduce((a, b) => a + b, 0);
  const middle = middleOf(
    channels.map(({ effect }) => effect),
    weights,
  );
  const share = weights.map((weight) => weight / total);
  const withMean = covariance.map((row) => row.reduce((sum, v, j) => sum + v * share[j]!, 0));
  const ofMean = withMean.reduce((sum, v, i) => sum + v * share[i]!, 0);
  const student = studentQuantile(0.975, degreesOfFreedom) / 1.96;
  const errors = channels.map(
    (_, i) => student * Math.sqrt(Math.max(0, covariance[i]![i]! - 2 * withMean[i]! + ofMean)),
  );
  const fromMiddle = channels.map(({ effect }) => effect - middle);
  const isBeyond = fromMiddle.map(
    (d, i) => Math.abs(Math.expm1(d)) > CHANNEL_LIMITS.most && Math.abs(d) > 2 * errors[i]!,
  );
  const shrunk = shrinkTowardsNone(
    fromMiddle.map((effect, i) => ({ effect, error: errors[i]!, counts: !isBeyond[i] })),
  );
  return channels.map(({ channel, results, cells, effect }, i) => ({
    channel,
    results,
    cells,
    effect: Math.expm1(effect),
    standardError: Math.sqrt(Math.max(0, covariance[i]![i]!)),
    fromMedian: Math.expm1(fromMiddle[i]!),
    reliability: shrunk[i]!.reliability,
    shrunk: Math.expm1(shrunk[i]!.value),
    shrunkError: shrunk[i]!.error,
    repeatability,
    beyond: isBeyond[i]!,
    corrects:
      results >= CHANNEL_LIMITS.results &&
      cells >= CHANNEL_LIMITS.cells &&
      Math.abs(fromMiddle[i]!) > 2 * errors[i]! &&
      !isBeyond[i],
  }));
}

/** What a channel's known effect does to a result. */
export interface ChannelCorrection {
  /** The result is divided by it. */
  factor: number;
  /** Relative standard uncertainty it adds. */
  relativeUncertainty: number;
  text: string;
}

/**
 * The correction of a result from one channel: by the shrunk effect where the channel has results
 * enough and its effect exceeds twice its error, else none, and the effect stays as uncertainty
 * (handbook, chapter 3).
 */
export function channelCorrection(effect: ChannelEffect): ChannelCorrection {
  // Rounded first, so that nothing reads as minus zero.
  const share = (value: number) => `${(Math.round(1e4 * value) / 100 + 0).toFixed(2)} %`;
  if (effect.corrects)
    return {
      factor: 1 + effect.shrunk,
      relativeUncertainty: effect.shrunkError,
      text: `${effect.channel} reads ${share(Math.abs(effect.shrunk))} ${effect.shrunk > 0 ? 'high' : 'low'} (± ${share(2 * effect.shrunkError)}, ${effect.results} results); divided out.`,
    };
  const few = effect.results < CHANNEL_LIMITS.results ? `, ${effect.results} result(s) only` : '';
  return {
    factor: 1,
    relativeUncertainty: Math.hypot(effect.shrunk, effect.shrunkError),
    text: `${effect.channel} cannot be told from the others (${share(effect.shrunk)} ± ${share(2 * effect.shrunkError)}${few}); kept as uncertainty.`,
  };
}

/** Why results of a channel wait; null where it is not beyond what is corrected. */
export function channelBeyond(effect: ChannelEffect): string | null {
  if (!effect.beyond) return null;
  const { fromMedian, standardError, results } = effect;
  return `It reads ${(100 * Math.abs(fromMedian)).toFixed(1)} % ${fromMedian > 0 ? 'high' : 'low'} against the other channels (± ${(200 * standardError).toFixed(1)} %, ${results} result(s)); more than ${100 * CHANNEL_LIMITS.most} % is not corrected, somebody has to look.`;
}
