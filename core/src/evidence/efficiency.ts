import { energyStepWh } from './charge-steps';
import type { Discharge, Section } from './sections';
import type { Trace } from './trace';

/** What came out over what went in, where one log holds both directions. */
export interface Efficiency {
  /** Charge out over charge in, as a share. */
  coulombic: number;
  /** Energy out over energy in, as a share. */
  energy: number;
  /** Whether the charge stands before or after the discharge in the log. */
  charge: 'before' | 'after';
}

/**
 * A charge belongs to a discharge when their amounts are this near to each other. More cannot
 * come out than went in but for the meter: then the charge was only a part.
 */
const LEAST_SHARE = 0.8;
const MOST_SHARE = 1.005;

function energyWh(trace: Trace, { fromIndex, toIndex }: Section): number {
  let sum = 0;
  for (let row = fromIndex + 1; row <= toIndex; row++) sum += energyStepWh(trace, row);
  return sum;
}

/**
 * Coulombic and energy efficiency of the main discharge with the charge beside it (handbook,
 * chapter 3). Null without current, without a charge, or where the two moved amounts too unlike
 * to belong together. The charge after the discharge goes first: it makes good what was taken.
 */
export function efficiencyOf(
  trace: Trace,
  sections: readonly Section[],
  discharge: Discharge | null,
): Efficiency | null {
  if (!trace.currentA || !discharge) return null;
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
    if (!section) continue;
    const coulombic = discharge.ah / section.ah;
    if (coulombic < LEAST_SHARE || coulombic > MOST_SHARE) continue;
    const outWh = discharge.sections.reduce((sum, own) => sum + energyWh(trace, own), 0);
    return { coulombic, energy: outWh / energyWh(trace, section), charge };
  }
  return null;
}
