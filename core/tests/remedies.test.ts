import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  centsText,
  type ClaimedCell,
  lackOf,
  paybackChance,
  type RemedyFacts,
  remediesOf,
  roundedCents,
  shortfallOf,
} from '../src/money';

const amount = fc.integer({ min: 0, max: 10_000_000 });

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
    // Six cells below the claim, each half an Ah further down.
    expect(short.upperAh).toBeCloseTo(29.79 + 6 * 0.5, 9);
    expect(short.upperCents).toBe(short.highCents);
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
      // 0.2 Ah, and 0.5 by its uncertainty.
      upperCents: 28,
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
    ungradedMostCents: fc.option(amount),
    lackingCents: amount,
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

  it('returning at the chance it needs leaves, on average, what keeping leaves', () => {
    fc.assert(
      fc.property(facts, (some) => {
        const { returnNeedsChance } = remediesOf(some);
        const returned = inHand(some, 'return').inHandCents;
        if (returnNeedsChance === null) {
          expect(some.mayNotShip !== null || some.refundCents === 0).toBe(true);
          return;
        }
        // With the chance p: the refund less the way back, else the way back alone.
        const wayBack = some.refundCents - returned!;
        const expected = returnNeedsChance * returned! - (1 - returnNeedsChance) * wayBack;
        expect(expected).toBeCloseTo(inHand(some, 'keep').inHandCents!, 3);
      }),
      { seed: 15, numRuns: 500 },
    );
  });

  it('what is asked for is never less than the shortfall, nor than what makes keeping as good', () => {
    fc.assert(
      fc.property(facts, (some) => {
        const { askCents, breakEvenCents, breakEvenLeastCents } = remediesOf(some);
        const testing = some.testingCents ?? 0;
        expect(askCents - testing).toBeGreaterThanOrEqual(some.lackingCents);
        expect(askCents - testing).toBeGreaterThanOrEqual(breakEvenLeastCents ?? 0);
        // Never less than the other side offered.
        expect(askCents).toBeGreaterThanOrEqual(some.partialRefundCents);
        if (askCents > some.partialRefundCents)
          expect([some.lackingCents, breakEvenLeastCents ?? 0]).toContain(askCents - testing);
        // Cells nobody graded may be of the best grade; where nobody knows what that brings they are no ground.
        if (breakEvenCents !== null && some.ungradedMostCents !== null)
          expect(breakEvenLeastCents).toBe(breakEvenCents - some.ungradedMostCents);
        expect(remediesOf({ ...some, ungradedMostCents: null }).askCents).toBe(
          Math.max(some.lackingCents + testing, some.partialRefundCents),
        );
      }),
      { seed: 15, numRuns: 500 },
    );
  });

  it('what cells lack adds up to the shortfall, and its ends to those of its value', () => {
    const cell = fc.record({
      capacityAh: fc.double({ min: 0, max: 200, noNaN: true }),
      U: fc.option(fc.double({ min: 0, max: 5, noNaN: true })),
      isShort: fc.boolean(),
    });
    fc.assert(
      fc.property(fc.array(cell, { maxLength: 40 }), (cells) => {
        const whole = shortfallOf(cells, 104, 40.865);
        const short = cells.filter(({ isShort }) => isShort).map((one) => lackOf(one, 104));
        const sum = (key: 'ah' | 'lowAh' | 'highAh') =>
          short.reduce((total, one) => total + one[key], 0);
        expect(whole.ah).toBeCloseTo(sum('ah'), 9);
        expect(whole.cents).toBe(roundedCents(sum('ah') * 40.865));
        expect(whole.lowCents).toBe(roundedCents(sum('lowAh') * 40.865));
        expect(whole.highCents).toBe(roundedCents(sum('highAh') * 40.865));
        for (const { ah, lowAh, highAh } of short) {
          expect(lowAh).toBeLessThanOrEqual(ah);
          expect(ah).toBeLessThanOrEqual(highAh);
          expect(lowAh).toBeGreaterThanOrEqual(0);
        }
      }),
      { seed: 15, numRuns: 300 },
    );
  });

  it('the chance of being paid is even before anything ended, and follows what did', () => {
    const none = { ended: 0, paid: 0 };
    expect(paybackChance(none, none)).toMatchObject({ chance: 0.5 });
    // Beta(1, 1): its quantiles are the shares themselves.
    expect(paybackChance(none, none).low).toBeCloseTo(0.025, 6);
    expect(paybackChance(none, none).high).toBeCloseTo(0.975, 6);
    // All six of others were paid: 7 / 8 of strength 2, then one of one’s own that was not.
    expect(paybackChance(none, { ended: 6, paid: 6 }).chance).toBeCloseTo(7 / 8, 12);
    expect(paybackChance({ ended: 1, paid: 0 }, { ended: 7, paid: 6 }).chance).toBeCloseTo(
      (2 * 7) / 9 / 3,
      12,
    );
    fc.assert(
      fc.property(fc.nat(30), fc.nat(30), fc.nat(30), (paid, lost, others) => {
        const own = { ended: paid + lost, paid };
        const all = { ended: paid + lost + others, paid };
        const here = paybackChance(own, all);
        expect(here.low).toBeLessThanOrEqual(here.chance);
        expect(here.chance).toBeLessThanOrEqual(here.high);
        const better = paybackChance(
          { ended: own.ended + 1, paid: paid + 1 },
          { ended: all.ended + 1, paid: paid + 1 },
        );
        expect(better.chance).toBeGreaterThan(here.chance);
      }),
      { seed: 15, numRuns: 200 },
    );
    expect(() => paybackChance({ ended: 1, paid: 2 }, none)).toThrow(/found 2 of 1/);
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
      ungradedMostCents: 0,
      lackingCents: 1217,
      testingCents: null,
    };
    const { options, askCents } = remediesOf(some);
    expect(options.map(({ kind, inHandCents }) => [kind, inHandCents])).toEqual([
      ['return', null],
      ['partialRefund', 70_000],
      ['keep', 50_000],
      ['replace', null],
    ]);
    expect(askCents).toBe(20_000);
    expect(remediesOf({ ...some, partialRefundCents: 0 }).askCents).toBe(1217);
    const sound = remediesOf({ ...some, mayNotShip: null });
    expect(sound.options[0]!.inHandCents).toBe(136_000 - 9640 - 4500);
    expect(sound.breakEvenCents).toBe(121_860 - 50_000);
    expect(sound.askCents).toBe(71_860);
    expect(sound.options[3]!.inHandCents).toBe(150_000 - 14_140);
  });
});
