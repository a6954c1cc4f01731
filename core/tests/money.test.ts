import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  centsOf,
  centsText,
  centsTimes,
  landedCost,
  roundedCents,
  splitCents,
  unitCosts,
} from '../src/money';

const amount = fc.integer({ min: 0, max: 10_000_000 });

describe('cents', () => {
  it.each([
    ['410.00', 41_000],
    ['0.07', 7],
    ['38.5', 3850],
    ['1360', 136_000],
    ['−12.17', -1217],
    ['-0.00', 0],
  ])('%s', (text, cents) => expect(centsOf(text)).toBe(cents));

  it('times a number are exact, half a cent away from zero', () => {
    expect(centsTimes(150, 0.35)).toBe(53);
    expect(centsTimes(-150, 0.35)).toBe(-53);
    expect(centsTimes(10_000, 0.925)).toBe(9250);
    expect(centsTimes(1, 1e-12)).toBe(0);
    expect(centsTimes(3, 1e9)).toBe(3_000_000_000);
    expect(() => centsTimes(1, Infinity)).toThrow(/finite/);
    fc.assert(
      fc.property(
        fc.integer({ min: -5_000_000, max: 5_000_000 }),
        fc.integer({ min: 0, max: 100_000 }),
        (cents, thousandths) => {
          // Whole numbers alone: cents times thousandths, to the nearest thousand.
          const exact = Math.abs(cents) * thousandths;
          const rounded = Math.floor((exact + 500) / 1000);
          expect(centsTimes(cents, thousandths / 1000)).toBe(
            rounded === 0 ? 0 : Math.sign(cents) * rounded,
          );
        },
      ),
    );
  });

  it.each(['', '4,10', '1.234', '1e3', 'much', '1 000'])('refuses %j', (text) =>
    expect(() => centsOf(text)).toThrow(/Expected an amount/),
  );

  it('come back from their text', () => {
    fc.assert(
      fc.property(fc.integer({ min: -1e12, max: 1e12 }), (cents) => {
        expect(centsOf(centsText(cents))).toBe(cents);
      }),
      { seed: 15, numRuns: 500 },
    );
    expect(centsText(-5)).toBe('−0.05');
    expect(() => centsText(0.5)).toThrow(/whole cents/);
  });

  it('are split so that the parts add up, each within a cent of its share', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -1_000_000, max: 1_000_000 }),
        fc.array(fc.double({ min: 0, max: 100, noNaN: true }), { minLength: 1, maxLength: 60 }),
        (total, weights) => {
          fc.pre(weights.some((one) => one > 1e-6));
          const parts = splitCents(total, weights);
          expect(parts.reduce((sum, one) => sum + one, 0)).toBe(total);
          const all = weights.reduce((sum, one) => sum + one, 0);
          parts.forEach((part, i) =>
            expect(Math.abs(part - (total * weights[i]!) / all)).toBeLessThanOrEqual(1 + 1e-6),
          );
        },
      ),
      { seed: 15, numRuns: 500 },
    );
    expect(splitCents(100, [1, 1, 1])).toEqual([34, 33, 33]);
    expect(() => splitCents(100, [0, 0])).toThrow(/not all 0/);
  });
});

describe('what a lot cost', () => {
  it('ninety-six cells, worked in the handbook', () => {
    const { totalCents, parts } = landedCost({
      priceCents: 41_000,
      discountCents: roundedCents(0.04 * 41_000),
      freightCents: 3850,
      dutyCents: 0,
      feesCents: 0,
      minutes: 0,
      centsPerMinute: 0,
    });
    expect(centsText(totalCents)).toBe('432.10');
    expect(parts.reduce((sum, { cents }) => sum + cents, 0)).toBe(totalCents);
    // 77 of them at or above the line hold 5.62 of 6.31 kWh.
    const cells = Array.from({ length: 96 }, (_, i) =>
      i < 77
        ? { wh: 5620 / 77, stateOfHealth: 0.8 + i / 1000 }
        : { wh: 690 / 19, stateOfHealth: 0.79 },
    );
    const costs = unitCosts(totalCents, cells);
    expect(costs).toMatchObject({ cells: 96, tested: 96, good: 77 });
    expect([costs.kwhTested, costs.kwhGood].map((kwh) => kwh.toFixed(2))).toEqual(['6.31', '5.62']);
    expect(centsText(costs.perKwhTestedCents!)).toBe('68.48');
    expect(centsText(costs.perKwhGoodCents!)).toBe('76.89');
  });

  it('thirty-two cells with own minutes, worked in the handbook', () => {
    const outlay = {
      priceCents: centsOf('1360.00'),
      discountCents: 0,
      freightCents: centsOf('96.40'),
      dutyCents: 0,
      feesCents: centsOf('12.24'),
      minutes: 310,
      centsPerMinute: 75,
    };
    expect(centsText(landedCost(outlay).totalCents)).toBe('1701.14');
    expect(landedCost(outlay).parts.at(-1)).toEqual({ name: 'own time', cents: 23_250 });
    expect(() => landedCost({ ...outlay, feesCents: -1 })).toThrow(/0 or more/);
    expect(() => landedCost({ ...outlay, feesCents: 0.5 })).toThrow(/whole cents/);
    expect(() => landedCost({ ...outlay, minutes: -3 })).toThrow(/minutes/);
  });

  it('is told of nothing that is not there', () => {
    const costs = unitCosts(1000, [{ wh: null, stateOfHealth: null }]);
    expect(costs).toMatchObject({
      tested: 0,
      good: 0,
      perCellCents: 1000,
      perGoodCellCents: null,
      perKwhTestedCents: null,
      perKwhGoodCents: null,
    });
    expect(unitCosts(1000, []).perCellCents).toBeNull();
  });

  it('two of a hundred tested tell of a hundred what they tell of themselves', () => {
    const tested = { wh: 320, stateOfHealth: 0.97 };
    const none = { wh: null, stateOfHealth: null };
    const all = unitCosts(1_040_000, Array<typeof tested>(100).fill(tested));
    const two = unitCosts(1_040_000, [tested, tested, ...Array<typeof none>(98).fill(none)]);
    expect(two).toMatchObject({ tested: 2, good: 2 });
    expect(two.perKwhGoodCents).toBe(all.perKwhGoodCents);
    expect(two.perKwhTestedCents).toBe(all.perKwhTestedCents);
    expect(two.perGoodCellCents).toBe(all.perGoodCellCents);
    // 10 400.00 for 32 kWh.
    expect(two.perKwhGoodCents).toBe(32_500);
  });

  it('a higher line never makes a good kWh cheaper', () => {
    fc.assert(
      fc.property(
        amount,
        fc.array(
          fc.record({
            wh: fc.double({ min: 1, max: 400, noNaN: true }),
            stateOfHealth: fc.double({ min: 0.3, max: 1.2, noNaN: true }),
          }),
          { minLength: 1, maxLength: 40 },
        ),
        fc.double({ min: 0.3, max: 1, noNaN: true }),
        (total, cells, line) => {
          const [low, high] = [unitCosts(total, cells, line), unitCosts(total, cells, line + 0.1)];
          if (high.perKwhGoodCents !== null)
            expect(high.perKwhGoodCents).toBeGreaterThanOrEqual(low.perKwhGoodCents!);
        },
      ),
      { seed: 15, numRuns: 300 },
    );
  });
});
