import { fitLinear, median, medianAbsoluteDeviation } from '../statistics';

/** A value a log shows, with its standard uncertainty in the same unit. */
export interface SeenInLog {
  value: number;
  standardUncertainty: number | null;
}

/** One log of a cell: what was measured of the cell by itself, and what the log shows of it. */
export interface IdentityOfLog {
  key: string;
  cell: string;
  /** When it ran, ms; cells are taken for one another only where their logs were made near each other. */
  atMs: number;
  /** The cell was scanned where it stood: it is the one it is filed under. */
  isCertain: boolean;
  /** Of the cell, apart from this log: AC resistance, mΩ, and mass, g. */
  own: { acMohm: number | null; massG: number | null };
  /** Of the log: steps of the voltage under load as resistances, mΩ, and capacity, Ah. */
  log: {
    after10sMohm: SeenInLog | null;
    after1sMohm: SeenInLog | null;
    after30sMohm: SeenInLog | null;
    capacityAh: SeenInLog | null;
  };
}

/** Two logs that fit each other’s cells far better than their own. */
export interface SuspectedSwap {
  keys: [string, string];
  cells: [string, string];
  /** Log of the odds the measured values give for a swap. */
  logOdds: number;
  /** What shows it, as words. */
  by: string[];
}

/** Odds of 8 000 to 1 by the values alone, with so many others it may have been swapped with. */
const LEAST_LOG_ODDS = 9;
const USUAL_NEAR = 20;
/** Filed the other way round, both are ordinary: within so many scatters. */
const ORDINARY = 3;
/** Below so many logs a lot has no scatter of its own. */
const LEAST_LOGS = 12;
/** What is measured of cells tells logs apart only where it follows them this surely. */
const LEAST_T = 4;
/** No two meters agree better than this, as a share. */
const LEAST_SCATTER = 0.002;
/** Of a large lot so many logs tell its line and its scatter. */
const MOST_FITTED = 2000;
const NEAR_MS = 24 * 3_600_000;

/** How what a log shows follows what its cell was measured at, within one lot, on logarithms. */
interface Relation {
  /** Residual of a log against a cell, in scatters: the lot’s, or the log’s own where that is more. */
  residual: (own: number, seen: SeenInLog) => number;
  words: string;
}

type Line = (x: number) => number;

/** Middle of the slopes between values half the lot apart (Theil’s): a few logs of other cells do not bend it. */
function robustLine(points: readonly (readonly [number, number])[], centre: number): Line | null {
  const ordered = [...points].sort(([a], [b]) => a - b);
  const half = ordered.length >> 1;
  const slopes = ordered.slice(half).flatMap(([x, y], i) => {
    const [x0, y0] = ordered[i]!;
    return x > x0 ? [(y - y0) / (x - x0)] : [];
  });
  if (slopes.length < LEAST_LOGS / 2) return null;
  const slope = median(slopes);
  const level = median(points.map(([x, y]) => y - slope * (x - centre)));
  return (x) => level + slope * (x - centre);
}

function relationOf(pairs: readonly (readonly [number, number])[], words: string): Relation | null {
  if (pairs.length < LEAST_LOGS) return null;
  const every = Math.ceil(pairs.length / MOST_FITTED);
  const fitted = every > 1 ? pairs.filter((_, i) => i % every === 0) : pairs;
  const points = fitted.map(([own, seen]) => [Math.log(own), Math.log(seen)] as const);
  const centre = median(points.map(([x]) => x));
  const scatterOf = (some: typeof points, line: Line) =>
    Math.max(LEAST_SCATTER, 1.4826 * medianAbsoluteDeviation(some.map(([x, y]) => y - line(x))));
  const rough = robustLine(points, centre);
  if (!rough) return null;
  // Logs of other cells, loose contacts and slips of the hand are left out of the fit.
  const most = ORDINARY * scatterOf(points, rough);
  const kept = points.filter(([x, y]) => Math.abs(y - rough(x)) <= most);
  const fit = fitLinear(
    kept.map(([x]) => [1, x - centre]),
    kept.map(([, y]) => y),
  );
  if (!fit) return null;
  const [level, slope] = fit.coefficients as [number, number];
  if (!(slope > LEAST_T * Math.sqrt(fit.covariance[1]![1]!))) return null;
  const line: Line = (x) => level + slope * (x - centre);
  const scatter = scatterOf(kept, line);
  return {
    words,
    residual: (own, { value, standardUncertainty }) =>
      (Math.log(value) - line(Math.log(own))) /
      Math.max(scatter, (standardUncertainty ?? 0) / value),
  };
}

const SEEN = [
  ['acMohm', 'after10sMohm', 'the step under load against the AC resistance'],
  ['acMohm', 'after1sMohm', 'the step under load against the AC resistance'],
  ['acMohm', 'after30sMohm', 'the step under load against the AC resistance'],
  ['massG', 'capacityAh', 'the capacity against the mass'],
] as const;

const isPositive = (value: number | null | undefined): value is number =>
  value !== null && value !== undefined && value > 0;

/**
 * Pairs of logs of one lot that were probably filed under each other’s cells: what the logs show
 * (step under load, capacity) follows what was measured of the cells (AC resistance, mass), and
 * these two follow each other’s. The odds come from this lot’s own scatter; where the cells are too
 * alike for it nothing is said. Each log is in one pair at most, the surest first.
 */
export function suspectedSwaps(logs: readonly IdentityOfLog[]): SuspectedSwap[] {
  const relations = SEEN.map(([own, seen, words]) =>
    relationOf(
      logs.flatMap((log) => {
        const [x, y] = [log.own[own], log.log[seen]];
        return isPositive(x) && y && isPositive(y.value) ? [[x, y.value] as const] : [];
      }),
      words,
    ),
  );
  const isOdd = (log: IdentityOfLog) =>
    SEEN.some(([own, seen], r) => {
      const [x, y] = [log.own[own], log.log[seen]];
      return isPositive(x) && y !== null && Math.abs(relations[r]?.residual(x, y) ?? 0) >= ORDINARY;
    });
  const found: SuspectedSwap[] = [];
  const ordered = logs.filter(({ isCertain }) => !isCertain).sort((a, b) => a.atMs - b.atMs);
  // Odds as high need one of the two to be out of line as it is filed: few are.
  const odd = ordered.map(isOdd);
  for (const [i, a] of ordered.entries()) {
    if (!odd[i]) continue;
    const near = nearOf(ordered, i);
    // The more it may have been swapped with, the less one of them is expected beforehand.
    const least = LEAST_LOG_ODDS + Math.log(Math.max(1, near.length / USUAL_NEAR));
    for (const j of near) {
      const b = ordered[j]!;
      if (a.cell === b.cell || (odd[j] && j < i)) continue;
      const swap = compared(a, b, relations);
      if (swap && swap.logOdds >= least) found.push(swap);
    }
  }
  const taken = new Set<string>();
  return found
    .sort((a, b) => b.logOdds - a.logOdds)
    .filter(({ keys }) => {
      if (keys.some((key) => taken.has(key))) return false;
      for (const key of keys) taken.add(key);
      return true;
    });
}

/** Places of the logs made near one of them in time. */
function nearOf(ordered: readonly IdentityOfLog[], i: number): number[] {
  const isNear = (j: number) =>
    ordered[j] !== undefined && Math.abs(ordered[j].atMs - ordered[i]!.atMs) <= NEAR_MS;
  const near: number[] = [];
  for (let j = i - 1; isNear(j); j--) near.push(j);
  for (let j = i + 1; isNear(j); j++) near.push(j);
  return near;
}

function compared(
  a: IdentityOfLog,
  b: IdentityOfLog,
  relations: readonly (Relation | null)[],
): SuspectedSwap | null {
  let logOdds = 0;
  const by: string[] = [];
  let stepSeen = false;
  for (const [r, [own, seen]] of SEEN.entries()) {
    const relation = relations[r];
    // One step under load speaks; the others of the same log say the same once more.
    if (!relation || (own === 'acMohm' && stepSeen)) continue;
    const [x1, y1, x2, y2] = [a.own[own], a.log[seen], b.own[own], b.log[seen]];
    if (![x1, y1?.value, x2, y2?.value].every(isPositive)) continue;
    if (own === 'acMohm') stepSeen = true;
    const asFiled = [relation.residual(x1!, y1!), relation.residual(x2!, y2!)];
    const swapped = [relation.residual(x2!, y1!), relation.residual(x1!, y2!)];
    if (swapped.some((z) => Math.abs(z) > ORDINARY)) return null;
    const part = (asFiled[0]! ** 2 + asFiled[1]! ** 2 - swapped[0]! ** 2 - swapped[1]! ** 2) / 2;
    logOdds += part;
    if (part > 1) by.push(relation.words);
  }
  return by.length > 0 ? { keys: [a.key, b.key], cells: [a.cell, b.cell], logOdds, by } : null;
}
