import { type BudgetComponent, budgetPart, chargeAtVoltage, type WholeCurve } from '../../units';
import type { CellVoltage, HandPoint, HandSetting } from './points';

const ROOT_3 = Math.sqrt(3);

/** A point with its charge, what carries it, and the cell's own voltage. */
export interface Reached {
  point: HandPoint;
  atS: number;
  amps: number;
  ah: number;
  volts: CellVoltage | null;
}

/** Where the discharge ended, with what is not known of it. */
export interface Ending {
  ah: number;
  fromAh: number;
  toAh: number;
  at: Reached;
  isAtLeast: boolean;
  parts: BudgetComponent[];
  step: string;
}

/** Without points and curves an end is known within this share of the charge: a house default. */
const UNKNOWN_END_SHARE = 0.01;

/** How far down the way from one voltage to another a curve crosses a third, as a share of the charge between; null where it tells nothing. */
function shareAt(curve: WholeCurve, fromV: number, toV: number, v: number): number | null {
  const [from, to, at] = [fromV, toV, v].map((volts) => chargeAtVoltage(curve, volts));
  // A curve that ended above the lower voltage would put everything at its end.
  if (curve.voltageV[curve.voltageV.length - 1]! > v) return null;
  return from === null || to === null || at === null || !(to! > from!)
    ? null
    : (at! - from!) / (to! - from!);
}

const median = (sorted: readonly number[]): number => sorted[sorted.length >> 1]!;

/** The cell's voltage crosses the cut-off between two points: by the shape of the lot's curves, else linear. */
function between(
  above: Reached & { volts: CellVoltage },
  below: Reached & { volts: CellVoltage },
  cutoffV: number,
  curves: readonly WholeCurve[],
): Ending {
  const width = below.ah - above.ah;
  const linear = (above.volts.v - cutoffV) / (above.volts.v - below.volts.v);
  const shapes = curves
    .flatMap((curve) => shareAt(curve, above.volts.v, below.volts.v, cutoffV) ?? [])
    .sort((a, b) => a - b);
  const isShaped = shapes.length >= 3;
  const share = isShaped ? median(shapes) : linear;
  // A voltage falls ever faster towards the end: it crosses later than a straight line would, and before the second point.
  const [low, high] = isShaped
    ? [Math.min(linear, shapes[0]!), shapes[shapes.length - 1]!]
    : [linear, 1];
  const halfAh = width * Math.max(share - low, linear >= 1 ? 0 : high - share);
  // Steepness where it crosses: over the interval by its shape.
  const ahPerV = (width * Math.max(share, 1 - share)) / (above.volts.v - below.volts.v);
  const near = linear > 0.5 ? below : above;
  return {
    ah: above.ah + share * width,
    fromAh: above.ah,
    toAh: below.ah,
    at: near,
    isAtLeast: false,
    parts: [
      budgetPart(
        'endBetweenSamples',
        halfAh / ROOT_3,
        isShaped
          ? `between two points ${width.toPrecision(3)} Ah apart, by ${shapes.length} curves of the lot and a straight line, rectangular`
          : `between two points ${width.toPrecision(3)} Ah apart, from a straight line to the second point, rectangular`,
      ),
      budgetPart(
        'cutoffVoltage',
        ahPerV * near.volts.meterV,
        `${(near.volts.meterV * 1000).toPrecision(2)} mV at ${ahPerV.toPrecision(2)} Ah per V`,
      ),
      budgetPart(
        'leadResistance',
        ahPerV * near.volts.leadV,
        `${(near.volts.leadV * 1000).toPrecision(2)} mV at ${ahPerV.toPrecision(2)} Ah per V`,
      ),
    ],
    step: `The cell’s own voltage crosses ${cutoffV} V between ${above.ah.toPrecision(4)} and ${below.ah.toPrecision(4)} Ah: ${isShaped ? `by the shape of ${shapes.length} curves of the lot` : 'by a straight line'}.`,
  };
}

/** The charge per volt is taken over so much above a voltage, V, and over no less than a part of it. */
const SLOPE_V = 0.05;
const LEAST_SLOPE_V = 0.02;

/** Charge per volt at a voltage by the lot's curves, Ah/V; null where none tells it. */
function ahPerVoltAt(curves: readonly WholeCurve[], v: number): number | null {
  const slopes = curves
    .flatMap((curve) => {
      const above = chargeAtVoltage(curve, v + SLOPE_V);
      const at = chargeAtVoltage(curve, v);
      // A curve may end a little above: its charge belongs to the volts it came down.
      const spanV = v + SLOPE_V - Math.max(v, curve.voltageV[curve.voltageV.length - 1]!);
      return above === null || at === null || !(at > above) || spanV < LEAST_SLOPE_V
        ? []
        : [(at - above) / spanV];
    })
    .sort((a, b) => a - b);
  return slopes.length >= 3 ? median(slopes) : null;
}

/** The last point, above the cut-off or at the tester's own stop. */
function atLast(
  last: Reached,
  cutoffV: number,
  points: number,
  curves: readonly WholeCurve[],
): Ending {
  const u = last.volts ? Math.hypot(last.volts.meterV, last.volts.leadV) : 0;
  const isThere = last.volts !== null && last.volts.v <= cutoffV + 2 * u;
  const base = { ah: last.ah, fromAh: last.ah, toAh: last.ah, at: last };
  if (!isThere)
    return {
      ...base,
      isAtLeast: true,
      parts: [],
      step: last.volts
        ? `At the last point the cell itself was at ${last.volts.v.toFixed(3)} V, above ${cutoffV} V: it holds at least this.`
        : 'Nothing tells the cell’s own voltage at the last point: it holds at least this.',
    };
  const ahPerV = ahPerVoltAt(curves, cutoffV);
  const parts =
    ahPerV === null
      ? [
          budgetPart(
            'endBetweenSamples',
            (UNKNOWN_END_SHARE * last.ah) / ROOT_3,
            `${100 * UNKNOWN_END_SHARE} % of the charge where no curve tells how steep it ends, rectangular (house default)`,
          ),
        ]
      : [
          budgetPart(
            'cutoffVoltage',
            ahPerV * last.volts!.meterV,
            `${(last.volts!.meterV * 1000).toPrecision(2)} mV at ${ahPerV.toPrecision(2)} Ah per V`,
          ),
          budgetPart(
            'leadResistance',
            ahPerV * last.volts!.leadV,
            `${(last.volts!.leadV * 1000).toPrecision(2)} mV at ${ahPerV.toPrecision(2)} Ah per V`,
          ),
        ];
  return {
    ...base,
    isAtLeast: false,
    parts,
    step: `The ${last.point.isStop ? 'tester stopped by itself' : 'last point was read'} with the cell at ${last.volts!.v.toFixed(3)} V${points === 1 ? '; nobody read a point before' : ''}.`,
  };
}

/** Where a hand log ends: between two points, at the last one, or beyond it. */
export function endingOf(
  reached: readonly Reached[],
  { cutoffV }: HandSetting,
  curves: readonly WholeCurve[],
): Ending {
  const told = reached.filter((one): one is Reached & { volts: CellVoltage } => one.volts !== null);
  const i = told.findIndex(({ volts }) => volts.v <= cutoffV);
  const [above, below] = [told[i - 1], told[i]];
  if (above && below && below.ah > above.ah) return between(above, below, cutoffV, curves);
  const last = below ?? reached[reached.length - 1]!;
  return atLast(last, cutoffV, reached.length, curves);
}
