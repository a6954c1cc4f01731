/** Conditions a capacity claim is made under; null where neither claim nor model says. */
export interface CapacityConditions {
  rateIt: number | null;
  cutoffV: number | null;
  temperatureC: number | null;
}

/** How a run was done, in the same terms. */
export interface RunConditions {
  meanCurrentA: number | null;
  ratedAh: number;
  meanTemperatureC: number | null;
  restBeforeS: number | null;
}

/** Largest relative difference of rate that is still the same test. */
const RATE_TOLERANCE = 0.05;
/** Largest difference of temperature that is still the same test, K (handbook, chapter 2). */
const TEMPERATURE_TOLERANCE_K = 5;

export interface Comparability {
  comparable: boolean;
  /** What differs from the claim's conditions, one sentence each. */
  differences: string[];
}

/**
 * Whether a run was done under the claim's conditions, and what differs. A difference of
 * rate or temperature beyond the tolerance makes the result not comparable: no verdict.
 */
export function compareConditions(claim: CapacityConditions, run: RunConditions): Comparability {
  const differences: string[] = [];
  let comparable = true;
  if (claim.rateIt !== null && run.meanCurrentA !== null) {
    const rateIt = run.meanCurrentA / run.ratedAh;
    if (Math.abs(rateIt / claim.rateIt - 1) > RATE_TOLERANCE) {
      comparable = false;
      differences.push(`Measured at ${rateIt.toPrecision(2)} It, claimed at ${claim.rateIt} It.`);
    }
  }
  if (claim.temperatureC !== null && run.meanTemperatureC !== null) {
    const difference = run.meanTemperatureC - claim.temperatureC;
    if (Math.abs(difference) > TEMPERATURE_TOLERANCE_K) {
      comparable = false;
      differences.push(
        `Measured at ${run.meanTemperatureC.toFixed(1)} °C, claimed at ${claim.temperatureC} °C.`,
      );
    }
  }
  if (run.restBeforeS !== null && run.restBeforeS < 3600) {
    const minutes = Math.floor(run.restBeforeS / 60);
    differences.push(
      `The log shows ${minutes} min of rest before the load; whether the cell rested an hour after charge is not recorded in it.`,
    );
  }
  return { comparable, differences };
}
