import { median } from '../../statistics';
import { leftFromVoltage, wholeCharge, type WholeCurve } from '../../units';
import {
  cellVoltage,
  chargeSides,
  currentsOf,
  cutoffToSet,
  type HandLead,
  handLead,
  type HandPoint,
  type HandSetting,
} from './points';

/** A value between limits. */
export interface Between {
  low: number;
  middle: number;
  high: number;
}

/** When a hand log ends and when to be there. */
export interface HandForecast {
  leftAh: Between;
  /** When it ends, s since the load came on. */
  endS: Between;
  /** What tells it: the charge of other cells, the cell's own voltage on their curves, or what is expected. */
  by: 'charge' | 'voltage' | 'expected';
  curves: number;
  /** From when on somebody should be there, s. */
  beThereS: number;
  /** When to read the next point, s. */
  nextS: number;
  /** How fast it falls there by the lot's curves, mV per min; null where none tells it. */
  fallsMvPerMin: number | null;
}

/** Somebody should be there so long before the earliest end, s: a house default. */
const BEFORE_END_S = 600;
/** The first point, which tells leads and counter, s after load-on; points are no closer than this. */
const FIRST_S = 300;
/** Expected without any curve within this share: a house default. */
const EXPECTED_SHARE = 0.1;
/** Cells of one model at one charge and load differ by so much in voltage, V: a house default. */
const CELLS_DIFFER_V = 0.005;
/** Fewer curves tell no range. */
const LEAST_CURVES = 3;

const between = (values: readonly number[]): Between => ({
  low: Math.max(0, Math.min(...values)),
  middle: Math.max(0, median([...values])),
  high: Math.max(0, Math.max(...values)),
});

/** Charge so far, by the counter or else by the current. */
export const chargeNow = (points: readonly HandPoint[], setting: HandSetting): number | null => {
  const last = chargeSides(points, setting).findLast(
    ({ counterAh, currentAh }) => counterAh !== null || currentAh !== null,
  );
  return last ? (last.counterAh ?? last.currentAh) : 0;
};

/** What is left by the cell's own voltage on the curves of others, with its doubt; null where it tells nothing. */
function leftByVoltage(
  points: readonly HandPoint[],
  setting: HandSetting,
  lead: HandLead,
  curves: readonly WholeCurve[],
): Between | null {
  const last = points[points.length - 1];
  const at = last && cellVoltage(last, currentsOf(points)[points.length - 1]!, lead, setting);
  if (!at || last.isStop) return null;
  const doubtV = 2 * Math.hypot(at.meterV, at.leadV, CELLS_DIFFER_V);
  const left = (v: number) => curves.flatMap((curve) => leftFromVoltage(curve, v) ?? []);
  const [low, middle, high] = [left(at.v - doubtV), left(at.v), left(at.v + doubtV)];
  if (low.length === 0 || middle.length === 0 || high.length === 0) return null;
  return {
    low: Math.min(...low),
    middle: median(middle),
    high: Math.max(...high),
  };
}

function leftOf(
  points: readonly HandPoint[],
  setting: HandSetting,
  curves: readonly WholeCurve[],
): Pick<HandForecast, 'leftAh' | 'by' | 'curves'> {
  const given = chargeNow(points, setting) ?? 0;
  const few = curves.length < LEAST_CURVES;
  const totals = few
    ? [1 - EXPECTED_SHARE, 1, 1 + EXPECTED_SHARE].map((share) => share * setting.expectedAh)
    : curves.map(wholeCharge);
  const byCharge = between(totals.map((total) => total - given));
  const byVoltage = few ? null : leftByVoltage(points, setting, handLead(points, setting), curves);
  const isNarrower =
    byVoltage !== null &&
    (byVoltage.high - byVoltage.low < byCharge.high - byCharge.low || byCharge.high === 0);
  return isNarrower
    ? { leftAh: byVoltage, by: 'voltage', curves: curves.length }
    : { leftAh: byCharge, by: few ? 'expected' : 'charge', curves: few ? 0 : curves.length };
}

/** How fast the voltage falls over the last minutes of the lot's curves at a current, mV per min. */
function fallAtEnd(curves: readonly WholeCurve[], cutoffV: number, amps: number): number | null {
  const slopes = curves.flatMap((curve) => {
    const [above, at] = [leftFromVoltage(curve, cutoffV + 0.1), leftFromVoltage(curve, cutoffV)];
    return above === null || at === null || above <= at ? [] : [100 / (above - at)];
  });
  return slopes.length < LEAST_CURVES ? null : (median(slopes) * amps) / 60;
}

/**
 * When a hand log ends, and when to be there (handbook, chapter 2): by the charge the lot's cells gave,
 * or by the cell's own voltage on their curves where that is narrower, as it is near the knee.
 * Null where no current is known.
 * @param setA current as set, A, for a log without points. @param curves whole discharges of the lot.
 */
export function handForecast(
  points: readonly HandPoint[],
  setting: HandSetting,
  { setA, curves }: { setA: number | null; curves: readonly WholeCurve[] },
): HandForecast | null {
  const last = points[points.length - 1];
  const amps = currentsOf(points).at(-1) ?? setA;
  if (!amps || last?.isStop) return null;
  const atS = last?.atS ?? 0;
  const left = leftOf(points, setting, curves);
  const end = (ah: number) => atS + (ah / amps) * 3600;
  const endS = {
    low: end(left.leftAh.low),
    middle: end(left.leftAh.middle),
    high: end(left.leftAh.high),
  };
  const beThereS = Math.max(atS, endS.low - BEFORE_END_S);
  const halfway = atS + Math.max(FIRST_S, (endS.low - atS) / 2);
  return {
    ...left,
    endS,
    beThereS,
    nextS: last ? halfway : FIRST_S,
    fallsMvPerMin: fallAtEnd(curves, setting.cutoffV, amps),
  };
}

/** What to set the tester's cut-off to, and what it costs to leave it; null where nothing need be done. */
export function cutoffAdvice(
  points: readonly HandPoint[],
  setting: HandSetting,
  setA: number | null,
): { setV: number; dropV: number; text: string } | null {
  const amps = currentsOf(points).at(-1) ?? setA;
  const lead = handLead(points, setting);
  if (!amps || lead.mohm === null) return null;
  const setV = cutoffToSet(setting.cutoffV, amps, lead)!;
  const dropV = setting.cutoffV - setV;
  if (Math.abs((setting.setCutoffV ?? setting.cutoffV) - setV) < 0.01) return null;
  return {
    setV,
    dropV,
    text: `Set the tester’s cut-off to ${setV.toFixed(2)} V: its leads take ${(dropV * 1000).toFixed(0)} mV at ${amps} A, and the cell itself then ends at ${setting.cutoffV.toFixed(2)} V.`,
  };
}
