/** A point of a control chart that a run rule speaks against. */
export interface ChartSignal {
  /** Position of the point, from 0. */
  index: number;
  rule: 'beyondLimits' | 'eightOneSide';
  text: string;
}

/** Individuals chart with moving ranges (ISO 7870-2). */
export interface ControlChart {
  centre: number;
  /** Mean moving range. */
  meanRange: number;
  /** m − 2.66·mR̄ and m + 2.66·mR̄, as much wider as so few points leave both uncertain. */
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
/** Fewest points limits may be drawn from (handbook, chapter 3). */
export const FEWEST_CHART_POINTS = 8;
/** A mean of moving ranges has so many degrees of freedom for each of them. */
const DEGREES_A_RANGE = 0.62;
/** How much wider limits are for each missing degree, and the side of the centre that tells. */
const WIDER = 2.2;
const SIDE_WIDTH = 1.5;
/** So many points in a row on one side of the centre are none of chance. */
const ONE_SIDE = 8;

const RULE_WORDS: Record<ChartSignal['rule'], string> = {
  beyondLimits: 'beyond the limits',
  eightOneSide: 'the eighth in a row on one side of the centre',
};

/**
 * How much wider than 2.66·mR̄ limits from so few points are, so that a channel in control is called out
 * of it by at most one point in a hundred: centre and scatter are themselves known only so well.
 * @example widening(8) // 1.598
 */
const widening = (points: number): number =>
  Math.sqrt(1 + 1 / points) * (1 + WIDER / (DEGREES_A_RANGE * (points - 1)));

/**
 * Individuals and moving-range chart of one channel: limits from its first points, which later ones do
 * not move, and one run rule, eight on one side (handbook, chapter 3).
 * @param values in the order of time. @param settings.baseline how many of the first points set
 *   the limits; all when left out. @param settings.leastMeanRange what repeats of other channels
 *   are known to scatter: few points that happen to lie close set no narrower limits than that.
 * @returns null with fewer than `FEWEST_CHART_POINTS` points in the baseline.
 * @example controlChart([10, 11, 10, 11, 10, 11, 10, 11, 10, 11]).upper // 14.39: 10.5 + 2.66 × 1 × 1.46
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
  const half = LIMIT_FACTOR * meanRange * widening(base.length);
  const chart = {
    centre,
    meanRange,
    lower: centre - half,
    upper: centre + half,
    rangeUpper: RANGE_FACTOR * meanRange,
    ranges,
  };
  return { ...chart, signals: signalsOf(values, chart, base.length) };
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

function signalsOf(
  values: readonly number[],
  { centre, meanRange, lower, upper }: Omit<ControlChart, 'signals'>,
  base: number,
): ChartSignal[] {
  const signals: ChartSignal[] = [];
  const say = (index: number, rule: ChartSignal['rule']) =>
    signals.push({ index, rule, text: RULE_WORDS[rule] });
  // The centre itself is known only so well: what lies as near to it is on no side.
  const side = (SIDE_WIDTH * LIMIT_FACTOR * meanRange) / 3 / Math.sqrt(base);
  values.forEach((value, i) => {
    if (meanRange > 0 && (value < lower || value > upper)) say(i, 'beyondLimits');
    const last = values.slice(Math.max(base, i + 1 - ONE_SIDE), i + 1);
    if (last.length < ONE_SIDE || !(meanRange > 0)) return;
    if (last.every((v) => v > centre + side) || last.every((v) => v < centre - side))
      say(i, 'eightOneSide');
  });
  return signals;
}

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
  const open = chart.signals.filter((signal) => signal.index > lookedAt);
  const firstBad = open[0];
  if (!firstBad) return null;
  const bad = new Set(chart.signals.map((signal) => signal.index));
  let lastGood = firstBad.index - 1;
  while (lastGood > lookedAt && bad.has(lastGood)) lastGood--;
  return { lastGood, firstBad };
}
