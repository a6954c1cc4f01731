import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seededRandom } from '../src/statistics';
import { type IdentityOfLog, suspectedSwaps } from '../src/verdicts';

const DAY_MS = 24 * 3_600_000;

const seen = (value: number, standardUncertainty = 0) => ({ value, standardUncertainty });

interface LotOptions {
  seed?: number;
  cells?: number;
  /** Scatter of the step under load about what the AC resistance says, and of the cells, as shares. */
  scatter?: number;
  spread?: number;
  /** How capacity follows mass; 0 where it does not. */
  perMass?: number;
}

/** Logs of one lot, fourteen a day, each of the cell it is filed under. */
function lotOf({
  seed = 1,
  cells = 60,
  scatter = 0.008,
  spread = 0.05,
  perMass = 0,
}: LotOptions = {}) {
  const random = seededRandom(seed);
  return Array.from({ length: cells }, (_, i): IdentityOfLog => {
    const ohms = Math.exp(spread * random.normal());
    const mass = 1 + 0.01 * random.normal();
    return {
      key: `run ${i}`,
      cell: `cell ${i}`,
      atMs: Math.floor(i / 14) * 3 * DAY_MS,
      isCertain: false,
      own: { acMohm: 0.5 * ohms, massG: 1850 * mass },
      log: {
        after1sMohm: null,
        after10sMohm: seen(0.9 * ohms ** 0.8 * Math.exp(scatter * random.normal())),
        after30sMohm: null,
        capacityAh: seen(104 * mass ** perMass * (1 + 0.002 * random.normal())),
      },
    };
  });
}

/** Files two logs under each other’s cells. */
function swapped(lot: readonly IdentityOfLog[], i: number, j: number): IdentityOfLog[] {
  return lot.map((log, at) =>
    at === i ? { ...log, log: lot[j]!.log } : at === j ? { ...log, log: lot[i]!.log } : log,
  );
}

/** The two of one day whose resistances lie furthest apart. */
const APART = (lot: readonly IdentityOfLog[]): [number, number] => {
  const day = lot.slice(0, 14).map((log, i) => [log.own.acMohm!, i] as const);
  day.sort(([a], [b]) => a - b);
  return [day[0]![1], day.at(-1)![1]];
};

describe('logs filed under each other’s cells', () => {
  it('are found where their resistances differ, and named both ways', () => {
    const lot = lotOf();
    const [i, j] = APART(lot);
    const found = suspectedSwaps(swapped(lot, i, j));
    expect(found).toHaveLength(1);
    expect(new Set(found[0]!.keys)).toEqual(new Set([`run ${i}`, `run ${j}`]));
    expect(found[0]!.by).toEqual(['the step under load against the AC resistance']);
    expect(found[0]!.logOdds).toBeGreaterThan(9);
  });

  it('are not looked for among cells scanned at their places, or days apart', () => {
    const lot = lotOf();
    const [i, j] = APART(lot);
    const wrong = swapped(lot, i, j);
    const certain = wrong.map((log, at) => (at === i ? { ...log, isCertain: true } : log));
    expect(suspectedSwaps(certain)).toEqual([]);
    const later = wrong.map((log, at) => (at === i ? { ...log, atMs: 40 * DAY_MS } : log));
    expect(suspectedSwaps(later)).toEqual([]);
  });

  it('are found by mass and capacity, too, where capacity follows mass', () => {
    const lot = lotOf({ perMass: 1.5, spread: 0 });
    const mass = lot.slice(0, 14).map((log, i) => [log.own.massG!, i] as const);
    mass.sort(([a], [b]) => a - b);
    const [i, j] = [mass[0]![1], mass.at(-1)![1]];
    const [found] = suspectedSwaps(swapped(lot, i, j));
    expect(found!.by).toEqual(['the capacity against the mass']);
    // Where it does not follow, mass says nothing.
    expect(suspectedSwaps(swapped(lotOf({ spread: 0 }), i, j))).toEqual([]);
  });

  it('are not told in a lot of like cells, or of a few', () => {
    const alike = lotOf({ spread: 0.004 });
    expect(suspectedSwaps(swapped(alike, ...APART(alike)))).toEqual([]);
    const few = lotOf({ cells: 11 });
    expect(suspectedSwaps(swapped(few, 0, 1))).toEqual([]);
  });

  it('a loose contact or a slip of the hand is no swap', () => {
    const lot = lotOf();
    const odd = lot.map((log, i) =>
      i === 3
        ? { ...log, log: { ...log.log, after10sMohm: seen(2.4) } }
        : i === 5
          ? { ...log, own: { ...log.own, acMohm: 5 } }
          : log,
    );
    expect(suspectedSwaps(odd)).toEqual([]);
  });

  it('a log that is not known as well is not suspected as surely', () => {
    const lot = lotOf();
    const [i, j] = APART(lot);
    const wrong = swapped(lot, i, j).map((log) => ({
      ...log,
      log: { ...log.log, after10sMohm: seen(log.log.after10sMohm!.value, 0.1) },
    }));
    expect(suspectedSwaps(wrong)).toEqual([]);
  });

  it('in lots with nothing swapped, hardly a pair in a hundred lots is suspected', () => {
    let pairs = 0;
    for (let seed = 1; seed <= 100; seed++)
      pairs += suspectedSwaps(lotOf({ seed, cells: 240 })).length;
    expect(pairs).toBeLessThanOrEqual(2);
  });

  it('does not hang on the order of the logs, and takes each in one pair at most', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 1000 }),
        fc.array(fc.nat({ max: 13 }), { minLength: 2, maxLength: 6 }),
        (seed, places) => {
          let lot = lotOf({ seed });
          for (let k = 0; k + 1 < places.length; k += 2)
            lot = swapped(lot, places[k]!, places[k + 1]!);
          const found = suspectedSwaps(lot);
          const keys = found.flatMap((one) => one.keys);
          expect(new Set(keys).size).toBe(keys.length);
          const names = (swaps: typeof found) =>
            swaps.map((one) => [...one.keys].sort().join()).sort();
          expect(names(suspectedSwaps([...lot].reverse()))).toEqual(names(found));
        },
      ),
      { seed: 5, numRuns: 40 },
    );
  });
});
