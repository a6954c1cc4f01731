import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  centsOf,
  centsText,
  type ClaimedCell,
  landedCost,
  type RemedyFacts,
  remediesOf,
  roundedCents,
  shortfallOf,
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

describe('against the supplier', () => {
  const EIGHT = [98.8, 99.85, 98.83, 104.51, 99.11, 99.11, 105.95, 98.51];
  const centsPerAh = 136_000 / (32 * 104);

  it('eight cells fall short, worked in the handbook', () => {
    expect((centsPerAh / 100).toFixed(5)).toBe('0.40865');
    const cells: ClaimedCell[] = EIGHT.map((capacityAh) => ({
      capacityAh,
      U: 0.5,
      isShort: capacityAh + 0.5 < 104,
    }));
    const short = shortfallOf(cells, 104, centsPerAh);
    expect(short.cells).toBe(6);
    expect(short.ah).toBeCloseTo(29.79, 9);
    expect(centsText(short.cents)).toBe('12.17');
    expect(short.upperAh).toBeCloseTo(29.79, 9);
    // Six cells, half an Ah each way.
    expect(short.lowCents).toBe(roundedCents((29.79 - 3) * centsPerAh));
    expect(short.highCents).toBe(roundedCents((29.79 + 3) * centsPerAh));
  });

  it('a cell too close to call is in the upper figure only', () => {
    const close = { capacityAh: 103.8, U: 0.5, isShort: false };
    expect(shortfallOf([close], 104, 40)).toMatchObject({
      cells: 0,
      ah: 0,
      cents: 0,
      upperCents: 8,
    });
  });

  const facts = fc.record({
    resaleCents: amount,
    refundCents: amount,
    returnFreightCents: amount,
    packingMinutes: fc.integer({ min: 0, max: 600 }),
    centsPerMinute: fc.integer({ min: 0, max: 200 }),
    partialRefundCents: amount,
    replacementCents: fc.option(amount),
    mayNotShip: fc.constantFrom(null, 'Two of them are swollen.'),
    shortfallCents: amount,
    testingCents: fc.option(amount),
  }) satisfies fc.Arbitrary<RemedyFacts>;
  const inHand = (from: RemedyFacts, kind: string) =>
    remediesOf(from).options.find((one) => one.kind === kind)!;

  it('break-even is where keeping with that refund leaves as much as returning', () => {
    fc.assert(
      fc.property(facts, (some) => {
        const { breakEvenCents } = remediesOf(some);
        if (breakEvenCents === null) {
          expect(some.mayNotShip).not.toBeNull();
          expect(inHand(some, 'return')).toMatchObject({
            inHandCents: null,
            struckOut: some.mayNotShip,
          });
          return;
        }
        const kept = inHand({ ...some, partialRefundCents: breakEvenCents }, 'partialRefund');
        expect(kept.inHandCents).toBe(inHand(some, 'return').inHandCents);
      }),
      { seed: 15, numRuns: 500 },
    );
  });

  it('what is asked for is never less than the shortfall, nor than what makes keeping as good', () => {
    fc.assert(
      fc.property(facts, (some) => {
        const { askCents, breakEvenCents } = remediesOf(some);
        const testing = some.testingCents ?? 0;
        expect(askCents - testing).toBeGreaterThanOrEqual(some.shortfallCents);
        expect(askCents - testing).toBeGreaterThanOrEqual(breakEvenCents ?? 0);
        expect([some.shortfallCents, breakEvenCents ?? 0]).toContain(askCents - testing);
      }),
      { seed: 15, numRuns: 500 },
    );
  });

  it('cells that may not be shipped are neither returned nor replaced', () => {
    const some: RemedyFacts = {
      resaleCents: 50_000,
      refundCents: 136_000,
      returnFreightCents: 9640,
      packingMinutes: 60,
      centsPerMinute: 75,
      partialRefundCents: 20_000,
      replacementCents: 150_000,
      mayNotShip: 'One leaks.',
      shortfallCents: 1217,
      testingCents: null,
    };
    const { options, askCents } = remediesOf(some);
    expect(options.map(({ kind, inHandCents }) => [kind, inHandCents])).toEqual([
      ['return', null],
      ['partialRefund', 70_000],
      ['keep', 50_000],
      ['replace', null],
    ]);
    expect(askCents).toBe(1217);
    const sound = remediesOf({ ...some, mayNotShip: null });
    expect(sound.options[0]!.inHandCents).toBe(136_000 - 9640 - 4500);
    expect(sound.breakEvenCents).toBe(121_860 - 50_000);
    expect(sound.askCents).toBe(71_860);
    expect(sound.options[3]!.inHandCents).toBe(150_000 - 14_140);
  });
});
