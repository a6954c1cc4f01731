import {
  type Bin,
  clopperPearson,
  histogram,
  lowerToleranceLimit,
  mean,
  meanInterval,
  quantile,
  standardDeviation,
  type ToleranceLimit,
  twoHumps,
  type TwoHumps,
} from '../statistics';
import { type Estimate, isKnown, type KnownEstimate } from '../units';
import type { ItemStateName } from './assessed-item';
import type { Range } from './judge';
import { trueShare } from './true-share';

/** One cell’s measured value of one claim item, as it was assessed. */
export interface AssessedResult extends Estimate {
  cell: string;
  /** Where it stands, as it was assessed. */
  state: ItemStateName;
  /** Part of the uncertainty that scatters from cell to cell; absent where that is not known. */
  scatter?: number;
}

/** Results of a lot for one claimed item, counted and summed. */
export interface ItemSummary {
  /** Results mean and spread are made of: comparable with the claim, not held, no bounds. */
  n: number;
  /** Comparable results that are bounds, as a broken-off test leaves them: counted, not averaged. */
  bounds: number;
  /** Those a verdict fell of, or is too close; none where the claim is a typical value. */
  judged: number;
  notComparable: number;
  /** Comparable ones of whose uncertainty nothing is known: they wait. */
  noUncertainty: number;
  held: number;
  mean: number | null;
  /** 95 %, from the cells’ spread and what the meters have in common. */
  meanInterval: { low: number; high: number } | null;
  standardDeviation: number | null;
  minimum: number | null;
  fifthPercentile: number | null;
  /** What 95 % of cells exceed with 95 % confidence; for items that must be at least so much. */
  tolerance: { limit: ToleranceLimit | null; reason?: string } | null;
  met: number;
  notMet: number;
  tooClose: number;
  /** Of those too close, bounds: nothing is near a limit, the test did not go far enough. */
  openBounds?: number;
  /** Share judged not met, with its exact 95 % interval; null without results. */
  shareShort: { share: number; low: number; high: number } | null;
  /** Estimated share truly on the wrong side, the measuring doubt taken in; null below five. */
  trulyShort: { share: number; low: number; high: number } | null;
  /** One hump or two (handbook, chapter 5); null below eight results. */
  humps: TwoHumps | null;
  bins: Bin[];
  /** Median expanded uncertainty of the results, for the band round the claim. */
  typicalU: number | null;
}

/**
 * A lot's results for one claim item (handbook, chapter 5, "The lot against its claim").
 * Lower bounds are counted but left out of mean, spread and histogram, which they would bias.
 * @param limits of the claim; a share truly short is told where one end is open.
 */
export function summariseItem(results: readonly AssessedResult[], limits: Range): ItemSummary {
  const usable = results.filter(
    (result): result is Known => IN_STATISTICS.has(result.state) && isKnown(result),
  );
  const count = (state: ItemStateName) => results.filter((one) => one.state === state).length;
  const exact = usable.filter((result) => result.bound === 'exact');
  const values = exact.map((result) => result.value);
  const notMet = count('notMet');
  const judged = count('met') + count('tooClose') + notMet;
  const some = values.length > 0;
  const scatter = some ? quantile(exact.map(scatterOf), 0.5) : 0;
  const common = commonDoubt(exact);
  return {
    n: exact.length,
    bounds: usable.length - exact.length,
    judged,
    notComparable: count('notComparable'),
    noUncertainty: count('waitingFor'),
    held: count('held'),
    mean: some ? mean(values) : null,
    meanInterval: widened(meanInterval(values), common),
    standardDeviation: values.length > 1 ? standardDeviation(values) : null,
    minimum: some ? Math.min(...values) : null,
    fifthPercentile: values.length >= 20 ? quantile(values, 0.05) : null,
    tolerance:
      limits.low !== null && limits.high === null && values.length > 1
        ? lowerToleranceLimit(values, { common })
        : null,
    met: count('met'),
    notMet,
    tooClose: count('tooClose'),
    openBounds: results.filter(({ state, bound }) => state === 'tooClose' && bound !== 'exact')
      .length,
    shareShort: judged > 0 ? { share: notMet / judged, ...clopperPearson(notMet, judged) } : null,
    trulyShort: trulyShort(usable, limits, { scatter, common }),
    humps: humpsOf(values),
    bins: histogram(values),
    typicalU: some
      ? 2 *
        quantile(
          usable.map((result) => result.standardUncertainty),
          0.5,
        )
      : null,
  };
}

/** States whose values tell how a lot is spread. */
const IN_STATISTICS: ReadonlySet<ItemStateName> = new Set([
  'met',
  'notMet',
  'tooClose',
  'described',
]);

/** Share truly on the wrong side of the one limit there is. */
function trulyShort(
  usable: readonly Known[],
  { low, high }: Range,
  doubt: { scatter: number; common: number },
): ItemSummary['trulyShort'] {
  if ((low === null) === (high === null)) return null;
  return trueShare(
    {
      exact: usable.flatMap(({ bound, value }) => (bound === 'exact' ? [value] : [])),
      // A bound enters only where it decides: what is at least enough is enough.
      conforming: usable.filter(({ bound, state }) => bound !== 'exact' && state === 'met').length,
    },
    low === null ? { value: high!, direction: 'atMost' } : { value: low, direction: 'atLeast' },
    doubt,
  );
}

/** Where it is not known how much of an uncertainty scatters, so much of the value does. */
const USUAL_SCATTER = 0.003;

/** A cell’s result whose uncertainty is known. */
type Known = AssessedResult & KnownEstimate;

const scatterOf = ({ scatter, value, standardUncertainty }: Known): number =>
  Math.min(standardUncertainty, scatter ?? USUAL_SCATTER * Math.abs(value));

const commonOf = (result: Known): number =>
  Math.sqrt(Math.max(0, result.standardUncertainty ** 2 - scatterOf(result) ** 2));

/**
 * What results of one lot have in common in their doubt, as a standard uncertainty: the middle of what
 * is left of each when its own scatter is taken out; 0 without results whose uncertainty is known.
 */
export function commonDoubt(results: readonly AssessedResult[]): number {
  const known = results.filter((result): result is Known => isKnown(result));
  return known.length > 0 ? quantile(known.map(commonOf), 0.5) : 0;
}

function widened(
  interval: { low: number; high: number } | null,
  common: number,
): { low: number; high: number } | null {
  if (!interval) return null;
  const centre = (interval.low + interval.high) / 2;
  const half = Math.hypot((interval.high - interval.low) / 2, 2 * common);
  return { low: centre - half, high: centre + half };
}

/** One hump or two in values of a lot, by what they can tell apart; null below eight. */
export const humpsOf = (values: readonly number[]): TwoHumps | null =>
  twoHumps(values, resolutionOf(values));

/** Smallest distance between different values: what the figures can tell apart. */
function resolutionOf(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  let least = Infinity;
  for (let i = 1; i < sorted.length; i++) {
    const step = sorted[i]! - sorted[i - 1]!;
    if (step > 1e-9 && step < least) least = step;
  }
  const usual = Math.abs(sorted[0] ?? 0) * 1e-4;
  return Number.isFinite(least) ? Math.max(least, usual) : usual;
}
