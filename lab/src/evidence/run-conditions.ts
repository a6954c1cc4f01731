import type { RunConditions } from '@dusk-tally/core/evidence';
import type { RunSummary } from '@dusk-tally/store';

/**
 * How a run was done. The surface’s mean temperature counts; the room’s where the log has none.
 * @param ratedAh reference for the rate, Ah.
 */
export function runConditions(
  summary: RunSummary,
  ambientC: number | null,
  ratedAh: number,
): RunConditions {
  return {
    meanCurrentA: summary.meanCurrentA,
    ratedAh,
    meanTemperatureC: summary.meanTemperatureC ?? ambientC,
    restAfterChargeS: restAfterCharge(summary),
    restBeforeS: summary.restBeforeS,
  };
}

/** Rest between charge and load-on where the log holds both, s. */
function restAfterCharge({ sections, loadOnS }: RunSummary): number | null {
  if (loadOnS === null) return null;
  const charge = sections.findLast(({ kind, toS }) => kind === 'charge' && toS <= loadOnS);
  return charge ? loadOnS - charge.toS : null;
}
