import { fitLinear } from '../statistics';
import { type CorrectionFactors, HOUSE_FACTORS, TEMPERATURE_KNEE_C } from './comparable';

/** A capacity of one cell under known conditions, for learning what its model does. */
export interface ConditionedCapacity {
  cell: string;
  capacityAh: number;
  currentA: number;
  temperatureC: number | null;
}

/** Runs of one cell whose rates differ by at least this make a rate set. */
const RATE_SPREAD = 1.5;
/** Runs of one cell whose temperatures differ by at least this make a temperature set, K. */
const TEMPERATURE_SPREAD_K = 4;
/** What stays the same in a set: temperatures within so many K, rates within this factor. */
const SAME_KELVIN = 3;
const SAME_RATE = 1.1;
const FEWEST_RUNS = 3;

function byCell(runs: readonly ConditionedCapacity[]): ConditionedCapacity[][] {
  const cells = new Map<string, ConditionedCapacity[]>();
  for (const run of runs) cells.set(run.cell, [...(cells.get(run.cell) ?? []), run]);
  return [...cells.values()];
}

const spread = (values: number[]) => Math.max(...values) - Math.min(...values);

/** y minus its cell’s mean against x minus its cell’s mean. */
function centred(groups: { xs: number[][]; ys: number[] }[]): { rows: number[][]; ys: number[] } {
  const rows: number[][] = [];
  const ys: number[] = [];
  for (const group of groups) {
    const n = group.ys.length;
    const means = group.xs[0]!.map((_, j) => group.xs.reduce((sum, x) => sum + x[j]!, 0) / n);
    const mean = group.ys.reduce((sum, y) => sum + y, 0) / n;
    group.xs.forEach((x, i) => {
      rows.push(x.map((value, j) => value - means[j]!));
      ys.push(group.ys[i]! - mean);
    });
  }
  return { rows, ys };
}

/** Slopes with standard errors, each cell with a level of its own. */
function slopes(groups: { xs: number[][]; ys: number[] }[]): { value: number; u: number }[] | null {
  const { rows, ys } = centred(groups);
  const fit = fitLinear(rows, ys);
  if (!fit) return null;
  // The cells' levels were fitted too.
  const degrees = fit.degreesOfFreedom - groups.length;
  if (degrees < 1) return null;
  const widen = fit.degreesOfFreedom / degrees;
  return fit.coefficients.map((value, i) => ({
    value,
    u: Math.sqrt(fit.covariance[i]![i]! * widen),
  }));
}

/**
 * Exponent k from rate sets: runs of one cell at like temperature whose rates differ
 * (handbook, chapter 3). Null when the runs hold no such set.
 */
export function fitRate(runs: readonly ConditionedCapacity[]): CorrectionFactors['rate'] | null {
  const sets = byCell(runs).filter((own) => {
    const temperatures = own.flatMap((run) => run.temperatureC ?? []);
    const currents = own.map((run) => run.currentA);
    return (
      own.length >= 2 &&
      Math.max(...currents) / Math.min(...currents) >= RATE_SPREAD &&
      (temperatures.length === 0 || spread(temperatures) <= SAME_KELVIN)
    );
  });
  const count = sets.reduce((sum, own) => sum + own.length, 0);
  if (count < FEWEST_RUNS) return null;
  const found = slopes(
    sets.map((own) => ({
      xs: own.map((run) => [-Math.log(run.currentA)]),
      ys: own.map((run) => Math.log(run.capacityAh)),
    })),
  )?.[0];
  if (!found || !(found.u > 0)) return null;
  return {
    k: 1 + found.value,
    uK: found.u,
    source: `fitted to ${count} runs of ${sets.length} ${sets.length === 1 ? 'cell' : 'cells'} of this model`,
  };
}

/**
 * Temperature coefficients from temperature sets: runs of one cell at like rate whose
 * temperatures differ. A side of the knee without runs keeps the house default.
 */
export function fitTemperature(
  runs: readonly ConditionedCapacity[],
): CorrectionFactors['temperature'] | null {
  const known = runs.filter(
    (run): run is ConditionedCapacity & { temperatureC: number } => run.temperatureC !== null,
  );
  const sets = byCell(known).filter((own) => {
    const currents = own.map((run) => run.currentA);
    return (
      own.length >= 2 &&
      spread(own.map((run) => run.temperatureC!)) >= TEMPERATURE_SPREAD_K &&
      Math.max(...currents) / Math.min(...currents) <= SAME_RATE
    );
  });
  const count = sets.reduce((sum, own) => sum + own.length, 0);
  if (count < FEWEST_RUNS) return null;
  const below = (c: number) => Math.min(c - TEMPERATURE_KNEE_C, 0);
  const above = (c: number) => Math.max(c - TEMPERATURE_KNEE_C, 0);
  const all = sets.flat().map((run) => run.temperatureC!);
  const sides = [below, above].map((side) => spread(all.map(side)) >= TEMPERATURE_SPREAD_K);
  const terms = [below, above].filter((_, i) => sides[i]);
  if (terms.length === 0) return null;
  const house = HOUSE_FACTORS.temperature;
  const houseShare = (c: number) =>
    (sides[0] ? 0 : house.belowPerK * below(c)) + (sides[1] ? 0 : house.abovePerK * above(c));
  const found = slopes(
    sets.map((own) => ({
      xs: own.map((run) => terms.map((term) => term(run.temperatureC!))),
      ys: own.map((run) => Math.log(run.capacityAh) - houseShare(run.temperatureC!)),
    })),
  );
  if (!found || found.some(({ u }) => !(u > 0))) return null;
  const [first, second] = found;
  return {
    belowPerK: sides[0] ? first!.value : house.belowPerK,
    abovePerK: sides[1] ? (sides[0] ? second! : first!).value : house.abovePerK,
    uPerK: Math.max(...found.map(({ u }) => u), ...(sides.every(Boolean) ? [] : [house.uPerK])),
    source: `fitted to ${count} runs of ${sets.length} ${sets.length === 1 ? 'cell' : 'cells'} of this model${sides.every(Boolean) ? '' : `, house default ${sides[0] ? 'above' : 'below'} ${TEMPERATURE_KNEE_C} °C`}`,
  };
}

/** What a model does, where its runs tell; the house defaults elsewhere. */
export function factorsOfModel(runs: readonly ConditionedCapacity[]): CorrectionFactors {
  return {
    temperature: fitTemperature(runs) ?? HOUSE_FACTORS.temperature,
    rate: fitRate(runs) ?? HOUSE_FACTORS.rate,
  };
}
