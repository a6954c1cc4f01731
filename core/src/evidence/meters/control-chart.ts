/** A point of a control chart that a run rule speaks against. */
export interface ChartSignal {
  /** Position of the point, from 0. */
  index: number;
  rule: 'beyondLimits' | 'nineOneSide' | 'sixTrend' | 'twoOfThreeFar' | 'fourOfFiveOff' | 'range';
  text: string;
}

/** Individuals chart with moving ranges (ISO 7870-2). */
export interface ControlChart {
  centre: number;
  /** Mean moving range. */
  meanRange: number;
  /** m − 2.66·mR̄ and m + 2.66·mR̄. */
  lower: number;
  upper: number;
  /** Limit of the moving range, 3.267·mR̄. */
  rangeUpper: number;
  ranges: number[];
  signals: ChartSignal[];
}

/** 3/d₂ and D₄ for ranges of two (ISO 7870-2, individuals and moving range). */
const LIMIT_FACTOR = 2.66;
const RANGE_FACTOR = 3.267;
/** Fewest points limits may be drawn from. */
export const FEWEST_CHART_POINTS = 5;

const RULE_WORDS: Record<ChartSignal['rule'], string> = {
  beyondLimits: 'beyond the limits',
  nineOneSide: 'the ninth in a row on one side of the centre',
  sixTrend: 'the sixth in a row going one way',
  twoOfThreeFar: 'two of three beyond two thirds of the way to a limit',
  fourOfFiveOff: 'four of five beyond one third of the way to a limit',
  range: 'too far from the one before',
};

/**
 * Individuals and moving-range chart of one channel (handbook, chapter 3).
 * @param values in the order of time. @param settings.baseline how many of the first points set
 *   the limits; all when left out. @param settings.leastMeanRange what repeats of other channels
 *   are known to scatter: few points that happen to lie close set no narrower limits than that.
 * @returns null with fewer than `FEWEST_CHART_POINTS` points in the baseline.
 * @example controlChart([10, 11, 10, 11, 10, 11, 10, 11, 10, 11]).upper // 13.16: 10.5 + 2.66 × 1
 */
export function controlChart(
  values: readonly number[],
  settings: { baseline?: number; leastMeanRange?: number } = {},
): ControlChart | null {
  const base = values.slice(0, settings.baseline ?? values.length);
  if (base.length < FEWEST_CHART_POINTS) return null;
  const ranges = movingRanges(values);
  const centre = base.reduce((sum, value) => sum + value, 0) / base.length;
  const meanRange = Math.max(meanMovingRange(base)!, settings.leastMeanRange ?? 0);
  const chart = {
    centre,
    meanRange,
    lower: centre - LIMIT_FACTOR * meanRange,
    upper: centre + LIMIT_FACTOR * meanRange,
    rangeUpper: RANGE_FACTOR * meanRange,
    ranges,
  };
  return { ...chart, signals: signalsOf(values, chart) };
}

const movingRanges = (values: readonly number[]): number[] =>
  values.slice(1).map((value, i) => Math.abs(value - values[i]!));

/**
 * Mean of the moving ranges of two; null below two values.
 * @example meanMovingRange([1, 2, 4, 4]) // 1
 */
export function meanMovingRange(values: readonly number[]): number | null {
  const ranges = movingRanges(values);
  return ranges.length === 0 ? null : ranges.reduce((sum, value) => sum + value, 0) / ranges.length;
}

function signalsOf(values: readonly number[], chart: Omit<ControlChart, 'signals'>): ChartSignal[] {
  const sigma = (LIMIT_FACTOR * chart.meanRange) / 3;
  const z = values.map((value) => (sigma > 0 ? (value - chart.centre) / sigma : 0));
  const signals: ChartSignal[] = [];
  const say = (index: number, rule: ChartSignal['rule']) =>
    signals.push({ index, rule, text: RULE_WORDS[rule] });
  /** At least `need` of the last `of` beyond `far` sigma on the side of the point itself. */
  const crowd = (i: number, need: number, of: number, far: number) => {
    const side = Math.sign(z[i]!);
    if (i + 1 < of || side * z[i]! <= far) return false;
    return z.slice(i + 1 - of, i + 1).filter((value) => side * value > far).length >= need;
  };
  for (let i = 0; i < z.length; i++) {
    if (Math.abs(z[i]!) > 3) say(i, 'beyondLimits');
    if (i >= 8 && sameSide(z.slice(i - 8, i + 1))) say(i, 'nineOneSide');
    if (i >= 5 && oneWay(z.slice(i - 5, i + 1))) say(i, 'sixTrend');
    if (crowd(i, 2, 3, 2)) say(i, 'twoOfThreeFar');
    if (crowd(i, 4, 5, 1)) say(i, 'fourOfFiveOff');
    if (i > 0 && chart.ranges[i - 1]! > chart.rangeUpper && chart.meanRange > 0) say(i, 'range');
  }
  return signals;
}

const sameSide = (z: number[]) => z.every((v) => v > 0) || z.every((v) => v < 0);
const oneWay = (z: number[]) => {
  const steps = z.slice(1).map((v, i) => v - z[i]!);
  return steps.every((step) => step > 0) || steps.every((step) => step < 0);
};

/** Since when results of a channel wait for someone to look; null while it is in control. */
export interface ChannelHold {
  /** Position of the last point no rule speaks against, −1 when there is none. */
  lastGood: number;
  firstBad: ChartSignal;
}

/**
 * Whether a point out of control blocks results since the last good point, until someone looked
 * (handbook, chapter 3). @param lookedAt position of the newest point a person has settled.
 */
export function channelHold(chart: ControlChart, lookedAt = -1): ChannelHold | null {
  // A wide step by itself is worth a look; only the points themselves hold results back.
  const open = chart.signals.filter((signal) => signal.index > lookedAt && signal.rule !== 'range');
  const firstBad = open[0];
  if (!firstBad) return null;
  const bad = new Set(chart.signals.map((signal) => signal.index));
  let lastGood = firstBad.index - 1;
  while (lastGood > lookedAt && bad.has(lastGood)) lastGood--;
  return { lastGood, firstBad };
}
