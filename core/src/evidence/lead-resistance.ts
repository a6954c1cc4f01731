import { fitLinear } from '../statistics';
import { combineBudget, type BudgetComponent, budgetPart } from '../units';

/** Two voltmeters at one moment: the tester's own, and one on the cell's terminals. */
export interface LeadSpot {
  testerV: number;
  /** On the terminals, V. */
  cellV: number;
  /** Discharge or charge current as a size, A; 0 tells the voltmeters' own difference. */
  currentA: number;
}

/** Lead resistance from spot readings, or why they give none. */
export type LeadFromSpots =
  | {
      mohm: number;
      /** Standard uncertainty, mΩ. */
      standardUncertaintyMohm: number;
      budget: BudgetComponent[];
      /** Difference of the two voltmeters at no current, V; null when it was not seen. */
      offsetV: number | null;
      reason?: undefined;
    }
  | { mohm: null; reason: string };

/** Two currents nearer than this share of the larger are one current. */
const APART = 0.2;

/**
 * Resistance of the leads between tester and cell from spot readings (handbook, chapter 3,
 * "Two-wire with known lead resistance"). With spots at different currents the two voltmeters'
 * difference is told from the leads' drop; with one current it stays in the uncertainty.
 * @param limitV limits of error of the two voltmeters' difference, V.
 */
export function leadFromSpots(spots: readonly LeadSpot[], limitV = 0.002): LeadFromSpots {
  const loaded = spots.filter(({ currentA }) => currentA > 0);
  if (loaded.length === 0)
    return { mohm: null, reason: 'Expected at least one spot reading under load.' };
  const most = Math.max(...loaded.map(({ currentA }) => currentA));
  const drops = spots.map(({ cellV, testerV }) => cellV - testerV);
  const least = Math.min(...spots.map(({ currentA }) => currentA));
  const tellsOffset = most - least > APART * most;
  const rows = spots.map(({ currentA }) => (tellsOffset ? [currentA, 1] : [currentA]));
  const fit = fitLinear(rows, drops);
  if (!fit) return { mohm: null, reason: 'Expected spot readings at a current above 0.' };
  const ohm = fit.coefficients[0]!;
  if (!(ohm > 0))
    return {
      mohm: null,
      reason:
        'The cell’s own voltage is not above the tester’s under load: were the two columns swapped, or was it a charge?',
    };
  const { budget, standardUncertainty } = combineBudget([
    budgetPart(
      'voltmeters',
      ((limitV / Math.sqrt(3)) * 1000) / (tellsOffset ? most - least : most),
      tellsOffset
        ? `${(limitV * 1000).toPrecision(2)} mV over ${(most - least).toPrecision(3)} A between the spots, rectangular`
        : `${(limitV * 1000).toPrecision(2)} mV at ${most.toPrecision(3)} A, rectangular`,
    ),
    budgetPart(
      'spotScatter',
      Math.sqrt(fit.covariance[0]![0]!) * 1000,
      `residuals of ${spots.length} spots`,
    ),
  ]);
  return {
    mohm: ohm * 1000,
    standardUncertaintyMohm: standardUncertainty,
    budget,
    offsetV: tellsOffset ? fit.coefficients[1]! : null,
  };
}

/** A lead resistance given without more is known within so much of itself, as limits. */
export const LEAD_LIMIT_SHARE = 0.1;

/** Standard uncertainty of a lead resistance that was only typed, mΩ. */
export const typedLeadUncertainty = (leadMohm: number): number =>
  (LEAD_LIMIT_SHARE * leadMohm) / Math.sqrt(3);
