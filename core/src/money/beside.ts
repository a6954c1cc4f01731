import { type Cents, centsTimes, requireWhole } from './cents';

/** Of the energy from the wall so much is given back on discharge: a house default. */
export const WALL_TO_CELL = 0.8;

/** What testing took beside own time. */
export interface TestingUse {
  /** Hours channels were taken. */
  benchHours: number;
  /** Energy the cells gave on discharge, kWh. */
  dischargedKwh: number;
  benchCentsPerHour: Cents;
  /** A kWh from the wall. */
  centsPerKwh: Cents;
}

/**
 * Bench hours and electricity of a lot: every discharge was charged before, and the wall gave a quarter
 * more than came out again.
 * @example testingCost({ benchHours: 10, dischargedKwh: 4, benchCentsPerHour: 20, centsPerKwh: 30 }).totalCents // 350
 */
export function testingCost({
  benchHours,
  dischargedKwh,
  benchCentsPerHour,
  centsPerKwh,
}: TestingUse): { benchCents: Cents; wallKwh: number; electricityCents: Cents; totalCents: Cents } {
  requireWhole(benchCentsPerHour);
  requireWhole(centsPerKwh);
  const wallKwh = dischargedKwh / WALL_TO_CELL;
  const benchCents = centsTimes(benchCentsPerHour, benchHours);
  const electricityCents = centsTimes(centsPerKwh, wallKwh);
  return { benchCents, wallKwh, electricityCents, totalCents: benchCents + electricityCents };
}

/**
 * What a kWh of the claimed throughput costs: the energy of the cells times the cycles the supplier
 * claims. It stands on the supplier’s word. @returns cents, as a real number; null where nothing is
 * claimed.
 * @example throughputCents(43_210, 6.31, 2000) // 3.424
 */
export function throughputCents(
  totalCents: Cents,
  kwh: number,
  claimedCycles: number | null,
): number | null {
  return claimedCycles && kwh > 0 ? totalCents / (kwh * claimedCycles) : null;
}

/**
 * An amount in the house’s currency by the day’s rate it was entered with.
 * @param rate what one of the lot’s currency was worth in the house’s. @throws RangeError for 0 or less.
 * @example inHouseCents(10_000, 0.925) // 9250
 */
export function inHouseCents(cents: Cents, rate: number): Cents {
  if (!(rate > 0) || !Number.isFinite(rate)) throw new RangeError('Expected a rate above 0.');
  return centsTimes(cents, rate);
}

/** Somebody did something at some time. */
export interface TimedAct {
  personId: number;
  at: Date;
}

/** Acts that follow each other within so many minutes are one stretch of work. */
const ONE_STRETCH_MIN = 10;
/** A stretch began so long before its first act. */
const BEFORE_FIRST_MIN = 1;

/**
 * Minutes of work the times of acts tell of: each person’s acts within ten minutes of each other are one
 * stretch, from a minute before its first to its last. What was done without the app is in no act.
 */
export function minutesOfActs(acts: readonly TimedAct[]): number {
  const byPerson = new Map<number, number[]>();
  for (const { personId, at } of acts)
    byPerson.set(personId, [...(byPerson.get(personId) ?? []), at.getTime() / 60_000]);
  let minutes = 0;
  for (const times of byPerson.values()) {
    times.sort((a, b) => a - b);
    times.forEach((time, i) => {
      const gap = i === 0 ? Infinity : time - times[i - 1]!;
      minutes += gap > ONE_STRETCH_MIN ? BEFORE_FIRST_MIN : gap;
    });
  }
  return minutes;
}
