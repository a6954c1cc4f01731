import { rootSumOfSquares } from '../units';

/** A voltage of a cell that stands, read after it was full. */
export interface RestReading {
  /** Days since the charge ended. */
  days: number;
  voltageV: number;
  /** Of the cell or the room, °C; null where it was not read. */
  temperatureC: number | null;
  /** What the meter’s resolution and short-term repeatability leave open, half width, V. */
  limitV: number;
}

/** Largest less smallest; 0 without any. */
export const spreadOf = (values: readonly number[]): number =>
  values.length === 0 ? 0 : Math.max(...values) - Math.min(...values);

/** Centred sums of a straight line through readings. */
export function lineThrough(readings: readonly RestReading[]) {
  const n = readings.length;
  const meanDay = readings.reduce((sum, { days }) => sum + days, 0) / n;
  const meanV = readings.reduce((sum, { voltageV }) => sum + voltageV, 0) / n;
  const sxx = readings.reduce((sum, { days }) => sum + (days - meanDay) ** 2, 0);
  const sxy = readings.reduce(
    (sum, { days, voltageV }) => sum + (days - meanDay) * (voltageV - meanV),
    0,
  );
  const slope = sxy / sxx;
  const squares = readings.reduce(
    (sum, { days, voltageV }) => sum + (voltageV - meanV - slope * (days - meanDay)) ** 2,
    0,
  );
  return { slope, sxx, scatterV: n > 2 ? Math.sqrt(squares / (n - 2)) : null };
}

/** Until so many days after the charge relaxation may still be going on. */
export const RELAXING_DAYS = 2;
/** What relaxation still going on may do to a slope nobody can look at for a bend, limits, V a day. */
const RELAXING_V_A_DAY = 0.0003;

/** u of a slope from what the meter leaves open of each reading, V a day. */
export function slopeByMeter(
  readings: readonly RestReading[],
  sxx: number,
): { u: number; limitV: number } {
  const limitV =
    rootSumOfSquares(readings.map((reading) => reading.limitV)) / Math.sqrt(readings.length);
  return { u: limitV / Math.sqrt(3) / Math.sqrt(sxx), limitV };
}

/**
 * What relaxation still going on at the first readings does to a slope: where they bend it the expected
 * way by more than their doubt they are left out; else that bend with its doubt, as far as it goes the expected
 * way, or 0.3 mV a day where too few later readings show one, is left open.
 */
export function relaxed(counted: readonly RestReading[]): {
  used: readonly RestReading[];
  openV: number;
  leftOut: number;
} {
  const late = counted.filter(({ days }) => days >= RELAXING_DAYS);
  if (late.length === counted.length) return { used: counted, openV: 0, leftOut: 0 };
  const lateDays = spreadOf(late.map(({ days }) => days));
  if (late.length < 2 || lateDays <= 0)
    return { used: counted, openV: RELAXING_V_A_DAY, leftOut: 0 };
  const [all, rest] = [lineThrough(counted), lineThrough(late)];
  // Both slopes share the later readings: what the first ones add is the difference of their doubts.
  const doubt = Math.sqrt(
    Math.max(0, slopeByMeter(late, rest.sxx).u ** 2 - slopeByMeter(counted, all.sxx).u ** 2),
  );
  const bend = rest.slope - all.slope;
  if (bend > BENDS_BY * doubt)
    return { used: late, openV: 0, leftOut: counted.length - late.length };
  return { used: counted, openV: Math.max(0, bend) + doubt, leftOut: 0 };
}

/** A bend of so many times its doubt is one. */
const BENDS_BY = 1;
