import { trapezoid } from '../units';
import type { Accuracy } from './accuracy';
import { energyStepWh } from './charge-steps';
import type { Lead } from './resistance';
import type { Discharge, Section } from './sections';
import { intervalOf, type Trace } from './trace';

/** What came out over what went in, where one log holds both directions. */
export interface Efficiency {
  /** Charge out over charge in, as a share. */
  coulombic: number;
  /** Energy out over energy in at the cell, leads taken off, as a share. */
  energy: number;
  /** Expanded uncertainties (k = 2) of both, as shares. */
  coulombicU: number;
  energyU: number;
  /** Whether the charge stands before or after the discharge in the log. */
  charge: 'before' | 'after';
}

/**
 * A charge belongs to a discharge when their amounts are this near to each other. More cannot
 * come out than went in but for the meter: then the charge was only a part.
 */
const LEAST_SHARE = 0.8;
const MOST_SHARE = 1.005;

/** What one direction moved. */
interface Moved {
  ah: number;
  /** At the meter. */
  wh: number;
  /** ∫I² dt, Wh for each Ω of leads. */
  whPerOhm: number;
  hours: number;
  /** Charge of the intervals at both ends of every part, Ah. */
  edgesAh: number;
}

function movedIn(trace: Trace, parts: readonly Section[]): Moved {
  const { currentA, timeS, sums } = trace;
  const moved: Moved = { ah: 0, wh: 0, whPerOhm: 0, hours: 0, edgesAh: 0 };
  for (const { fromIndex, toIndex, ah } of parts) {
    moved.ah += ah;
    const hours = (timeS[toIndex]! - timeS[fromIndex]!) / 3600;
    moved.hours += hours;
    if (hours > 0) moved.edgesAh += (ah / hours) * (intervalOf(trace) / 3600);
    for (let row = fromIndex + 1; row <= toIndex; row++) {
      moved.wh += energyStepWh(trace, row);
      const [a, b] = [currentA![row - 1]!, currentA![row]!];
      moved.whPerOhm += sums
        ? sums.whPerOhm[row]! - sums.whPerOhm[row - 1]!
        : trapezoid(a * a, b * b, (timeS[row]! - timeS[row - 1]!) / 3600);
    }
  }
  return moved;
}

/**
 * Both efficiencies with their uncertainty (handbook, chapter 3): one meter’s gain cancels, its
 * offset adds on the one side what it takes on the other, leads take energy both ways.
 */
function ofMoved(
  out: Moved,
  into: Moved,
  { accuracy, lead }: { accuracy: Accuracy; lead: Lead },
): Omit<Efficiency, 'charge'> {
  const root3 = Math.sqrt(3);
  const coulombic = out.ah / into.ah;
  const ohm = lead.mohm / 1000;
  const [outWh, inWh] = [out.wh + out.whPerOhm * ohm, into.wh - into.whPerOhm * ohm];
  const energy = outWh / inWh;
  const offset = (accuracy.currentOffsetA / root3) * (out.hours / out.ah + into.hours / into.ah);
  const edges = Math.hypot(out.edgesAh / out.ah, into.edgesAh / into.ah) / 2;
  const volts = (accuracy.voltageOffsetV / root3) * Math.abs(out.ah / outWh - into.ah / inWh);
  const leads =
    (lead.standardUncertaintyMohm / 1000) * (out.whPerOhm / outWh + into.whPerOhm / inWh);
  return {
    coulombic,
    energy,
    coulombicU: 2 * coulombic * Math.hypot(offset, edges),
    energyU: 2 * energy * Math.hypot(offset, edges, volts, leads),
  };
}

/**
 * Coulombic and energy efficiency of the main discharge with the charge beside it (handbook,
 * chapter 3). Null without current, without a charge, or where the two moved amounts too unlike
 * to belong together, or where nobody knows what flowed in a hole. The charge after the discharge
 * goes first: it makes good what was taken.
 */
export function efficiencyOf(
  trace: Trace,
  sections: readonly Section[],
  discharge: Discharge | null,
  known: { accuracy: Accuracy; lead: Lead },
): Efficiency | null {
  if (!trace.currentA || !discharge) return null;
  const isHoled = ({ holes }: Section) => holes?.some(({ ah }) => ah === null);
  if (discharge.sections.some(isHoled)) return null;
  const [first, last] = [
    discharge.sections[0]!,
    discharge.sections[discharge.sections.length - 1]!,
  ];
  const isCharge = ({ kind }: Section) => kind === 'charge';
  const beside = [
    { charge: 'after' as const, section: sections.find((s) => isCharge(s) && s.fromS > last.toS) },
    {
      charge: 'before' as const,
      section: sections.findLast((s) => isCharge(s) && s.toS < first.fromS),
    },
  ];
  for (const { charge, section } of beside) {
    if (!section || isHoled(section)) continue;
    const coulombic = discharge.ah / section.ah;
    if (coulombic < LEAST_SHARE || coulombic > MOST_SHARE) continue;
    const [out, into] = [movedIn(trace, discharge.sections), movedIn(trace, [section])];
    return { ...ofMoved(out, into, known), charge };
  }
  return null;
}
