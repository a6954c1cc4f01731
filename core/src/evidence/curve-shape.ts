import {
  type DifferentialVoltage,
  differentialVoltage,
  type IncrementalCapacity,
  incrementalCapacity,
} from './incremental-capacity';
import { chargeStepAh } from './charge-steps';
import type { Discharge, Section } from './sections';
import { type Trace, valueAt } from './trace';

/** Points of a charge tail, from 40 % to 5 % of rated capacity before full, one for each per cent. */
export const TAIL_SHARES = Array.from({ length: 36 }, (_, i) => (40 - i) / 100);

/** A charge counts as full when its current fell to this share of its greatest. */
const TAPERED = 0.5;

/** What the shape of one run’s curve says; parts the log does not hold are null. */
export interface CurveShape {
  /** Voltage on charge at each of `TAIL_SHARES` of rated capacity before full, V. */
  chargeTailV: number[] | null;
  /** Where the discharge curve bends down: charge since load-on and voltage there. */
  knee: { ah: number; voltageV: number } | null;
  /** Slope over the last 2 % of the charge given, V/Ah, negative. */
  endSlopeVPerAh: number | null;
  /** Rise of the voltage 1 min, 10 min and 1 h after load-off, V. */
  relaxationV: { after1min: number | null; after10min: number | null; after1h: number | null };
  /** dQ/dV of the discharge with its peaks; absent in runs taken in before it was kept. */
  incremental?: IncrementalCapacity | null;
  /** dV/dQ of the discharge. */
  differential?: DifferentialVoltage | null;
}

const short = (values: number[]) => values.map((value) => Number(value.toPrecision(4)));

/** The derivatives of a discharge with as many digits as are worth keeping. */
function derivatives(
  ah: Float64Array,
  volts: Float64Array,
): Required<Pick<CurveShape, 'incremental' | 'differential'>> {
  const incremental = incrementalCapacity(ah, volts);
  const differential = differentialVoltage(ah, volts);
  return {
    incremental: incremental && {
      voltageV: short(incremental.voltageV),
      ahPerV: short(incremental.ahPerV),
      peaks: incremental.peaks.map((peak) => ({
        voltageV: Number(peak.voltageV.toPrecision(4)),
        ahPerV: Number(peak.ahPerV.toPrecision(4)),
      })),
    },
    differential: differential && {
      ah: short(differential.ah),
      voltPerAh: short(differential.voltPerAh),
    },
  };
}

/** Charge from the start of a section at each of its rows, Ah. */
function chargeOver(trace: Trace, section: Section): Float64Array {
  const { fromIndex, toIndex } = section;
  const charge = new Float64Array(toIndex - fromIndex + 1);
  for (let row = fromIndex + 1; row <= toIndex; row++)
    charge[row - fromIndex] = charge[row - fromIndex - 1]! + chargeStepAh(trace, row);
  return charge;
}

/** Points a curve’s shape is looked at in; more rows than that are averaged in groups. */
const SHAPE_POINTS = 20_000;

/** Charge since its start and voltage over a section, at its rows or over groups of them. */
function curveIn(
  trace: Trace,
  section: Section,
  chargeGiven: Float64Array | null,
): { ah: Float64Array; volts: Float64Array } {
  const { fromIndex, toIndex } = section;
  const rows = toIndex - fromIndex + 1;
  const { voltageV } = trace;
  if (rows <= 2 * SHAPE_POINTS)
    return {
      ah: chargeOver(trace, section),
      volts: voltageV.subarray(fromIndex, toIndex + 1),
    };
  const size = Math.floor(rows / SHAPE_POINTS);
  const n = Math.floor(rows / size);
  const ah = new Float64Array(n);
  const volts = new Float64Array(n);
  const given = chargeGiven?.subarray(fromIndex, toIndex + 1) ?? chargeOver(trace, section);
  const before = given[0]!;
  let row = 0;
  for (let group = 0; group < n; group++) {
    let sumAh = 0;
    let sumV = 0;
    for (const end = row + size; row < end; row++) {
      sumAh += given[row]!;
      sumV += voltageV[fromIndex + row]!;
    }
    ah[group] = sumAh / size - before;
    volts[group] = sumV / size;
  }
  return { ah, volts };
}

/** Voltage on charge aligned by charge before full; null where no charge ends full or is too short. */
function chargeTail(trace: Trace, sections: Section[], ratedAh: number): number[] | null {
  const { currentA, voltageV } = trace;
  if (!currentA) return null;
  const charge = sections.filter(({ kind }) => kind === 'charge').sort((a, b) => b.ah - a.ah)[0];
  if (!charge || charge.ah < TAIL_SHARES[0]! * ratedAh) return null;
  let greatest = 0;
  for (let row = charge.fromIndex; row <= charge.toIndex; row++)
    greatest = Math.max(greatest, currentA[row]!);
  if (currentA[charge.toIndex]! > TAPERED * greatest) return null;
  const given = chargeOver(trace, charge);
  const full = given[given.length - 1]!;
  const volts = voltageV.subarray(charge.fromIndex, charge.toIndex + 1);
  return TAIL_SHARES.map((share) => valueAt(given, volts, full - share * ratedAh));
}

/**
 * The point of the last 60 % of a discharge that lies furthest above the straight line from its
 * first to its last point, both axes scaled to their range.
 */
function kneeOf(ah: Float64Array, volts: Float64Array): CurveShape['knee'] {
  const n = ah.length;
  const from = ah.findIndex((q) => q >= 0.4 * ah[n - 1]!);
  if (n - from < 20) return null;
  const [q0, q1, v0, v1] = [ah[from]!, ah[n - 1]!, volts[from]!, volts[n - 1]!];
  if (!(q1 > q0) || !(v0 - v1 > 0.1)) return null;
  let best = from;
  let height = -Infinity;
  for (let i = from; i < n; i++) {
    const above = (volts[i]! - v1) / (v0 - v1) - (1 - (ah[i]! - q0) / (q1 - q0));
    if (above > height) {
      height = above;
      best = i;
    }
  }
  return { ah: ah[best]!, voltageV: volts[best]! };
}

function relaxation(trace: Trace, last: Section): CurveShape['relaxationV'] {
  const { timeS, voltageV, currentA } = trace;
  const off = last.toIndex;
  let end = off;
  while (
    end + 1 < timeS.length &&
    (!currentA || Math.abs(currentA[end + 1]!) < 0.02 * Math.abs(currentA[off]!))
  )
    end++;
  const rise = (after: number) =>
    timeS[end]! - timeS[off]! >= after
      ? valueAt(timeS, voltageV, timeS[off]! + after) - voltageV[off]!
      : null;
  return { after1min: rise(60), after10min: rise(600), after1h: rise(3600) };
}

/**
 * The shape of a run’s curve, for comparison with the others of its lot (handbook, chapter 3).
 * @param chargeGiven `dischargedAh` of the trace, where it is there already.
 */
export function shapeOf(
  trace: Trace,
  sections: Section[],
  discharge: Discharge | null,
  ratedAh: number | null,
  chargeGiven: Float64Array | null = null,
): CurveShape {
  const last = discharge?.sections[discharge.sections.length - 1];
  const { ah, volts } = last ? curveIn(trace, last, chargeGiven) : { ah: null, volts: null };
  let endSlope: number | null = null;
  if (ah && volts && ah.length > 5) {
    const end = ah.length - 1;
    const before = ah.findIndex((q) => q >= 0.98 * ah[end]!);
    if (ah[end]! > ah[before]!)
      endSlope = (volts[end]! - volts[before]!) / (ah[end]! - ah[before]!);
  }
  return {
    chargeTailV: ratedAh ? chargeTail(trace, sections, ratedAh) : null,
    knee: ah && volts ? kneeOf(ah, volts) : null,
    endSlopeVPerAh: endSlope,
    relaxationV: last
      ? relaxation(trace, last)
      : { after1min: null, after10min: null, after1h: null },
    ...(ah && volts ? derivatives(ah, volts) : { incremental: null, differential: null }),
  };
}
