import { identity, median, solve } from '../../statistics';

/** One capacity of one cell on one channel. */
export interface ChannelResult {
  cell: string;
  channel: string;
  /** Any positive quantity, Ah for capacity. */
  value: number;
}

/** How far one channel reads from the others, as a share of the value: 0.035 reads 3.5 % high. */
export interface ChannelEffect {
  channel: string;
  results: number;
  /** Fitted; all channels sum to zero. */
  effect: number;
  standardError: number;
  /** From the median channel instead, which one bad channel does not move. */
  fromMedian: number;
  /** Share of the effect that is the channel rather than chance, 0 to 1. */
  reliability: number;
  /** `fromMedian` shrunk by the reliability. */
  shrunk: number;
  /** Standard uncertainty of `shrunk` as a share. */
  shrunkError: number;
  /** Beyond twice its standard error: results are corrected by it. */
  corrects: boolean;
  /** Standard deviation of one result about the fit, as a share; absent in old fits. */
  repeatability?: number;
}

export interface ChannelFit {
  channels: ChannelEffect[];
  /** Standard deviation of one result about the fit, as a share. */
  repeatability: number;
  degreesOfFreedom: number;
  cells: number;
  results: number;
}

export type ChannelFitOrReason =
  { fit: ChannelFit; reason?: undefined } | { fit: null; reason: string };

/** Below so many channels the median is no steadier than the mean. */
const MEDIAN_FROM = 4;

/**
 * Fits ln Q = m + cell + channel + e by least squares, channels summing to zero, any unbalanced
 * design (handbook, chapter 3, "Are the meters right?"). Cells are eliminated first, so hundreds
 * of them cost no more than the channels do.
 * @returns a reason where no fit can tell channels from cells: fewer than two channels, no
 *   repeat anywhere, or channels that no chain of shared cells connects.
 */
export function fitChannelEffects(results: readonly ChannelResult[]): ChannelFitOrReason {
  const wrong = results.find(({ value }) => !(value > 0));
  if (wrong)
    return { fit: null, reason: `Expected values above 0; ${wrong.cell} has ${wrong.value}.` };
  const channels = [...new Set(results.map((result) => result.channel))].sort();
  const cells = groupBy(results, (result) => result.cell);
  if (channels.length < 2)
    return { fit: null, reason: 'Expected results from at least two channels.' };
  const parts = connectedParts(channels, cells);
  if (parts.length > 1)
    return {
      fit: null,
      reason: `Channels ${parts.map((part) => part.join(', ')).join(' and ')} share no cell, not even through others: run one cell on both sides.`,
    };
  const at = new Map(channels.map((channel, index) => [channel, index]));
  const k = channels.length;
  // Normal equations with the cells eliminated: L·effects = b; L is a Laplacian of rank k − 1.
  const laplacian = Array.from({ length: k }, () => new Array<number>(k).fill(0));
  const moments = new Array<number>(k).fill(0);
  for (const own of cells.values()) {
    const counts = new Map<number, number>();
    const meanLog = own.reduce((sum, { value }) => sum + Math.log(value), 0) / own.length;
    for (const { channel, value } of own) {
      const i = at.get(channel)!;
      counts.set(i, (counts.get(i) ?? 0) + 1);
      moments[i] = moments[i]! + Math.log(value) - meanLog;
    }
    for (const [i, a] of counts) {
      laplacian[i]![i] = laplacian[i]![i]! + a;
      for (const [j, b] of counts) laplacian[i]![j] = laplacian[i]![j]! - (a * b) / own.length;
    }
  }
  const degreesOfFreedom = results.length - cells.size - (k - 1);
  if (degreesOfFreedom < 1)
    return { fit: null, reason: 'Expected more repeats than there are cells and channels.' };
  // L + J/k has the inverse L⁺ + J/k; the sum-to-zero solution is L⁺·b.
  const lifted = laplacian.map((row) => row.map((value) => value + 1 / k));
  const inverse = solve(lifted, identity(k))!;
  const pseudo = inverse.map((row) => row.map((value) => value - 1 / k));
  const effects = pseudo.map((row) => row.reduce((sum, value, j) => sum + value * moments[j]!, 0));
  const variance = residualVariance(cells, effects, at, degreesOfFreedom);
  return {
    fit: {
      channels: describe(channels, effects, pseudo, variance, results),
      repeatability: Math.sqrt(variance),
      degreesOfFreedom,
      cells: cells.size,
      results: results.length,
    },
  };
}

function groupBy<T>(items: readonly T[], key: (item: T) => string): Map<string, T[]> {
  const groups = new Map<string, T[]>();
  for (const item of items) {
    const group = groups.get(key(item));
    if (group) group.push(item);
    else groups.set(key(item), [item]);
  }
  return groups;
}

/** Channels in parts that share cells, largest part first. */
function connectedParts(channels: string[], cells: Map<string, ChannelResult[]>): string[][] {
  const parent = new Map(channels.map((channel) => [channel, channel]));
  const root = (channel: string): string => {
    const up = parent.get(channel)!;
    return up === channel ? channel : root(up);
  };
  for (const own of cells.values())
    for (const { channel } of own) parent.set(root(channel), root(own[0]!.channel));
  return [...groupBy(channels, root).values()].sort((a, b) => b.length - a.length);
}

function residualVariance(
  cells: Map<string, ChannelResult[]>,
  effects: number[],
  at: Map<string, number>,
  degreesOfFreedom: number,
): number {
  let sum = 0;
  for (const own of cells.values()) {
    const left = own.map(({ channel, value }) => Math.log(value) - effects[at.get(channel)!]!);
    const centre = left.reduce((a, b) => a + b, 0) / left.length;
    for (const value of left) sum += (value - centre) ** 2;
  }
  return sum / degreesOfFreedom;
}

function describe(
  channels: string[],
  effects: number[],
  pseudo: number[][],
  variance: number,
  results: readonly ChannelResult[],
): ChannelEffect[] {
  const errors = pseudo.map((row, i) => Math.sqrt(Math.max(0, row[i]! * variance)));
  const reference = channels.length >= MEDIAN_FROM ? median(effects) : 0;
  // Variance between channels by the method of moments: what is left of the spread beyond chance.
  const spread =
    effects.reduce((sum, effect) => sum + effect ** 2, 0) / Math.max(1, channels.length - 1);
  const chance = errors.reduce((sum, error) => sum + error ** 2, 0) / channels.length;
  const between = Math.max(0, spread - chance);
  return channels.map((channel, i) => {
    const [effect, standardError] = [effects[i]!, errors[i]!];
    const total = between + standardError ** 2;
    const reliability = total > 0 ? between / total : 0;
    const fromMedian = effect - reference;
    return {
      channel,
      results: results.filter((result) => result.channel === channel).length,
      effect: Math.expm1(effect),
      standardError,
      fromMedian: Math.expm1(fromMedian),
      reliability,
      shrunk: Math.expm1(reliability * fromMedian),
      shrunkError: Math.sqrt(reliability) * standardError,
      repeatability: Math.sqrt(variance),
      corrects: standardError > 0 ? Math.abs(fromMedian) > 2 * standardError : effect !== 0,
    };
  });
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
 * The correction of a result from one channel: by the shrunk effect where it exceeds twice its
 * error, else none, and the effect stays as uncertainty (handbook, chapter 3).
 */
export function channelCorrection(effect: ChannelEffect): ChannelCorrection {
  const share = (value: number) => `${(100 * value).toFixed(2)} %`;
  if (effect.corrects)
    return {
      factor: 1 + effect.shrunk,
      relativeUncertainty: effect.shrunkError,
      text: `${effect.channel} reads ${share(Math.abs(effect.shrunk))} ${effect.shrunk > 0 ? 'high' : 'low'} (± ${share(2 * effect.shrunkError)}, ${effect.results} results); divided out.`,
    };
  return {
    factor: 1,
    relativeUncertainty: Math.hypot(effect.shrunk, effect.shrunkError),
    text: `${effect.channel} cannot be told from the others (${share(effect.shrunk)} ± ${share(2 * effect.shrunkError)}); kept as uncertainty.`,
  };
}
