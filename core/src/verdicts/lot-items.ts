import { mean, meanInterval, median, medianInterval } from '../statistics';
import type { ClaimedItem, ItemState, ItemStateName } from './assessed-item';
import { type AssessedResult, commonDoubt } from './lot-summary';

/** Fewest results a typical value is judged from (handbook, chapter 5). */
export const FEWEST_FOR_TYPICAL = 5;

/** Where a claim about the whole lot stands, and what it is judged by. */
export type LotItemState = {
  /** 95 % interval a typical value is judged by; null for other items. */
  interval: { low: number; high: number; of: 'mean' | 'median' } | null;
  /** One short sentence. */
  text: string;
} & (
  | Extract<ItemState, { state: 'waitingFor' }>
  | { state: 'met' | 'notMet' | 'tooClose' }
  /** A date, not a judgement. */
  | { state: 'deadline'; on: string }
);

/**
 * A typical value is the lot’s to meet (handbook, chapter 5): of a capacity the mean with its
 * t-interval at least, of a resistance the median with its interval at most. The interval is widened
 * by what all results have in common: many results by one meter are no better known than that meter.
 * Limits are sharp: the interval carries the doubt.
 * @param results as they were assessed, `described`; others do not count.
 */
export function judgeTypical(
  kind: 'capacity' | 'acResistance' | 'dcResistance',
  claimed: number,
  results: readonly AssessedResult[],
): LotItemState {
  const values = results.flatMap(({ state, bound, value }) =>
    state === 'described' && bound === 'exact' ? [value] : [],
  );
  const of = kind === 'capacity' ? 'mean' : 'median';
  const what = [`${FEWEST_FOR_TYPICAL} results`];
  if (values.length < FEWEST_FOR_TYPICAL)
    return {
      interval: null,
      state: 'waitingFor',
      what,
      text: `Stated as typical: the lot’s ${of} is judged from ${FEWEST_FOR_TYPICAL} results on.`,
    };
  const counted = results.filter(({ state, bound }) => state === 'described' && bound === 'exact');
  const common = commonDoubt(counted);
  const bare = of === 'mean' ? meanInterval(values) : medianInterval(values);
  const centre = of === 'mean' ? mean(values) : median(values);
  const interval = bare && {
    low: centre - Math.hypot(centre - bare.low, 2 * common),
    high: centre + Math.hypot(bare.high - centre, 2 * common),
  };
  if (!interval)
    return {
      interval: null,
      state: 'waitingFor',
      what: ['more results'],
      text: `So few results give the lot’s ${of} no 95 % interval yet.`,
    };
  const [good, bad] =
    kind === 'capacity'
      ? [interval.low >= claimed, interval.high < claimed]
      : [interval.high <= claimed, interval.low > claimed];
  const shown = `${Number(interval.low.toPrecision(5))} to ${Number(interval.high.toPrecision(5))}`;
  return {
    interval: { ...interval, of },
    state: good ? 'met' : bad ? 'notMet' : 'tooClose',
    text: `Stated as typical: the lot’s ${of} lies within ${shown} (95 %${common > 0 ? `, ±${Number((2 * common).toPrecision(2))} of it from what the meters and corrections have in common` : ''}).`,
  };
}

/**
 * A mass told by the box alone: one weighing, however many cells are in it.
 * @param each net over count with its verdict; null where no cell is told by the box.
 */
export function massByBox(
  each: { value: number; state: ItemStateName } | null,
  cells: number,
): LotItemState | null {
  if (!each || (each.state !== 'met' && each.state !== 'notMet' && each.state !== 'tooClose'))
    return null;
  return {
    interval: null,
    state: each.state,
    text: `By the box, net over count: ${Number(each.value.toPrecision(5))} g each; ${cells} ${cells === 1 ? 'cell was' : 'cells were'} not weighed.`,
  };
}

/**
 * Counted against ordered. @param counted cells that are here; null before they were counted.
 * @example judgeQuantity(240, 239).state // 'notMet'
 */
export function judgeQuantity(claimed: number, counted: number | null): LotItemState {
  if (counted === null)
    return { interval: null, state: 'waitingFor', what: ['a count'], text: 'Not counted yet.' };
  return {
    interval: null,
    state: counted >= claimed ? 'met' : 'notMet',
    text: `${counted} are here, ${claimed} were sold.`,
  };
}

/**
 * Last day of a dispute window of so many days from the arrival on. @param arrivedOn `2026-03-01`.
 * @example disputeDeadline(14, '2026-11-20').on // '2026-12-04'
 */
export function disputeDeadline(days: number, arrivedOn: string | null): LotItemState {
  if (!arrivedOn)
    return {
      interval: null,
      state: 'waitingFor',
      what: ['the day of arrival'],
      text: 'It runs from the day of arrival.',
    };
  const last = new Date(`${arrivedOn}T00:00:00Z`);
  last.setUTCDate(last.getUTCDate() + days);
  const on = last.toISOString().slice(0, 10);
  return { interval: null, state: 'deadline', on, text: `Open until ${on}.` };
}

/** Whether an item is stated as typical. */
export const isTypical = ({ conditions }: Pick<ClaimedItem, 'conditions'>): boolean =>
  conditions.statedAs === 'typical';
