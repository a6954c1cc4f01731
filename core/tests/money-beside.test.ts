import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  inHouseCents,
  minutesOfActs,
  roundedCents,
  splitCents,
  testingCost,
  throughputCents,
  type TimedAct,
  WALL_TO_CELL,
} from '../src/money';

const MINUTE = 60_000;
const DAY = new Date('2026-03-02T08:00:00Z').getTime();
const acts = (personId: number, ...minutes: number[]): TimedAct[] =>
  minutes.map((minute) => ({ personId, at: new Date(DAY + minute * MINUTE) }));

describe('what testing takes beside own time', () => {
  it('is channels’ hours and what the wall gave, worked by hand', () => {
    // 10 h at 20 cents; 4 kWh out of the cells are 5 kWh from the wall, at 30 cents.
    expect(
      testingCost({ benchHours: 10, dischargedKwh: 4, benchCentsPerHour: 20, centsPerKwh: 30 }),
    ).toEqual({ benchCents: 200, wallKwh: 5, electricityCents: 150, totalCents: 350 });
    expect(WALL_TO_CELL).toBe(0.8);
  });

  it('adds up, and grows with each of its parts', () => {
    const use = fc.record({
      benchHours: fc.double({ min: 0, max: 5000, noNaN: true }),
      dischargedKwh: fc.double({ min: 0, max: 500, noNaN: true }),
      benchCentsPerHour: fc.nat(1000),
      centsPerKwh: fc.nat(200),
    });
    fc.assert(
      fc.property(use, (one) => {
        const { benchCents, electricityCents, wallKwh, totalCents } = testingCost(one);
        expect(totalCents).toBe(benchCents + electricityCents);
        expect(wallKwh * 4).toBeCloseTo(one.dischargedKwh * 5, 6);
        expect(Math.abs(benchCents - one.benchHours * one.benchCentsPerHour)).toBeLessThanOrEqual(
          0.5,
        );
        expect(Math.abs(electricityCents - wallKwh * one.centsPerKwh)).toBeLessThanOrEqual(0.5);
        const longer = testingCost({ ...one, benchHours: one.benchHours + 10 });
        expect(longer.totalCents).toBeGreaterThanOrEqual(totalCents);
      }),
      { seed: 15, numRuns: 200 },
    );
  });

  it('counts in whole cents only', () => {
    const use = { benchHours: 1, dischargedKwh: 1, benchCentsPerHour: 20, centsPerKwh: 30 };
    expect(() => testingCost({ ...use, centsPerKwh: 30.5 })).toThrow(/whole cents/);
    expect(() => testingCost({ ...use, benchCentsPerHour: 0.1 })).toThrow(/whole cents/);
  });
});

describe('a kWh of claimed throughput', () => {
  it('is the cost over energy times cycles', () => {
    expect(throughputCents(43_210, 6.31, 2000)! * 6.31 * 2000).toBeCloseTo(43_210, 6);
    expect(throughputCents(1000, 2, 1)).toBe(500);
    expect(throughputCents(1000, 2, 10), 'ten times the cycles, a tenth of the price').toBe(50);
  });

  it('is not told without claimed cycles or tested energy', () => {
    expect(throughputCents(1000, 2, null)).toBeNull();
    expect(throughputCents(1000, 2, 0)).toBeNull();
    expect(throughputCents(1000, 0, 2000)).toBeNull();
  });
});

describe('another currency', () => {
  it('is the day’s rate, to the nearest cent', () => {
    expect(inHouseCents(10_000, 0.925)).toBe(9250);
    expect(inHouseCents(1, 0.5)).toBe(1);
    expect(inHouseCents(-1, 0.5), 'half a cent goes away from zero').toBe(-1);
    for (const rate of [0, -1, NaN, Infinity])
      expect(() => inHouseCents(100, rate)).toThrow(/rate above 0/);
    expect(() => inHouseCents(0.5, 1)).toThrow(/whole cents/);
  });
});

describe('minutes the times of acts tell of', () => {
  it('are those of stretches, each from a minute before its first act', () => {
    expect(minutesOfActs(acts(1, 0, 4, 13))).toBe(14);
    expect(minutesOfActs(acts(1, 0, 10)), 'ten minutes apart are one stretch').toBe(11);
    expect(minutesOfActs(acts(1, 0, 11)), 'eleven are two').toBe(2);
    expect(minutesOfActs(acts(1, 5))).toBe(1);
    expect(minutesOfActs([])).toBe(0);
  });

  it('are as much as the day is covered by, whoever’s acts stand in whatever order', () => {
    const times = fc.array(fc.tuple(fc.integer({ min: 1, max: 3 }), fc.nat(600)), {
      maxLength: 40,
    });
    /** Half minutes of the day at which somebody worked. */
    const covered = (minutes: readonly number[]): number => {
      const sorted = [...new Set(minutes)].sort((a, b) => a - b);
      const halves = new Set<number>();
      const cover = (from: number, to: number) => {
        for (let half = 2 * from; half < 2 * to; half++) halves.add(half);
      };
      sorted.forEach((minute, i) => {
        cover(minute - 1, minute);
        const next = sorted[i + 1];
        if (next !== undefined && next - minute <= 10) cover(minute, next);
      });
      return halves.size / 2;
    };
    fc.assert(
      fc.property(times, (some) => {
        const all = some.flatMap(([person, minute]) => acts(person, minute));
        const expected = [1, 2, 3].reduce(
          (sum, person) =>
            sum + covered(some.filter(([who]) => who === person).map(([, minute]) => minute)),
          0,
        );
        expect(minutesOfActs(all)).toBeCloseTo(expected, 6);
        expect(minutesOfActs(all.toReversed())).toBeCloseTo(expected, 6);
      }),
      { seed: 15, numRuns: 200 },
    );
  });
});

describe('cents at their edges', () => {
  it('half a cent goes away from zero, on both sides alike', () => {
    expect([0.5, 1.5, 2.4, -0.5, -1.5, -2.4].map(roundedCents)).toEqual([1, 2, 2, -1, -2, -2]);
    expect(Object.is(roundedCents(-0.2), -0), 'and nothing is no negative nothing').toBe(false);
    fc.assert(
      fc.property(fc.double({ min: -1e9, max: 1e9, noNaN: true }), (amount) => {
        expect(roundedCents(-amount)).toBe(0 - roundedCents(amount));
      }),
      { seed: 15 },
    );
  });

  it('what is left over goes to the largest remainder, and to the first of equal ones', () => {
    expect(splitCents(1, [1, 1, 1])).toEqual([1, 0, 0]);
    expect(splitCents(2, [1, 1, 1])).toEqual([1, 1, 0]);
    expect(splitCents(100, [1, 2, 3])).toEqual([17, 33, 50]);
    expect(splitCents(100, [3, 2, 1])).toEqual([50, 33, 17]);
    expect(splitCents(-100, [1, 1, 1])).toEqual([-34, -33, -33]);
    expect(splitCents(5, [0, 1, 0])).toEqual([0, 5, 0]);
    for (const weights of [[], [0, 0], [1, -1], [NaN]])
      expect(() => splitCents(5, weights)).toThrow(/weights of 0 or more/);
  });
});
