import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  carried,
  cellGroundsCents,
  type GroundCell,
  type GroundFacts,
  groundsCents,
  groundsOf,
  remediesOf,
} from '../src/money';

const cents = fc.integer({ min: 0, max: 500_000 });
const cell: fc.Arbitrary<GroundCell> = fc.record({
  lackAh: fc.oneof(fc.constant(0), fc.double({ min: 0, max: 120, noNaN: true })),
  isDead: fc.boolean(),
  lessCents: fc.oneof(fc.constant(0), fc.integer({ min: 0, max: 6000 })),
});
const facts: fc.Arbitrary<GroundFacts> = fc.record({
  cells: fc.array(cell, { maxLength: 40 }),
  centsPerAh: fc.option(fc.double({ min: 1, max: 90, noNaN: true })),
  centsPerCell: fc.option(fc.double({ min: 1, max: 9000, noNaN: true })),
  refundCents: fc.option(cents),
  wayBackCents: cents,
  testingCents: fc.option(cents),
  breakEvenCents: fc.option(fc.integer({ min: -500_000, max: 500_000 })),
  offeredCents: cents,
});

/** 32 cells claimed at 104 Ah for 1360.00; three lack 5.2 Ah each. */
const LOT: GroundFacts = {
  cells: Array.from({ length: 32 }, (_, i) => ({
    lackAh: i < 3 ? 5.2 : 0,
    isDead: false,
    lessCents: 0,
  })),
  centsPerAh: 136_000 / (32 * 104),
  centsPerCell: 4250,
  refundCents: 136_000,
  wayBackCents: 14_140,
  testingCents: null,
  breakEvenCents: null,
  offeredCents: 0,
};
const withCell = (i: number, own: Partial<GroundCell>): GroundFacts => ({
  ...LOT,
  cells: LOT.cells.map((one, at) => (at === i ? { ...one, ...own } : one)),
});
const kinds = (some: GroundFacts) =>
  groundsOf('partialRefund', some).map(({ kind, cells, cents: of }) => [kind, cells, of]);

describe('grounds of an amount', () => {
  it('are the missing charge, dead cells at their price, others at the difference of grades', () => {
    // 15.6 Ah at 40.865 cents.
    expect(kinds(LOT)).toEqual([['missingCharge', 3, 638]]);
    expect(groundsOf('partialRefund', LOT)[0]!.ah).toBeCloseTo(15.6, 12);
    // The dead one is asked for whole, and its missing charge no second time.
    expect(kinds(withCell(0, { isDead: true }))).toEqual([
      ['missingCharge', 2, 425],
      ['deadCells', 1, 4250],
    ]);
    // Of what a worse grade brings less, the missing charge is asked for already.
    expect(kinds(withCell(0, { lessCents: 1000 }))).toEqual([
      ['missingCharge', 3, 638],
      ['otherThanClaimed', 1, 788],
    ]);
    expect(kinds({ ...LOT, breakEvenCents: 1000, testingCents: 250 })).toEqual([
      ['missingCharge', 3, 638],
      ['leavesAsReturning', null, 362],
      ['testing', null, 250],
    ]);
    expect(kinds({ ...LOT, offeredCents: 2000 })).toEqual([
      ['missingCharge', 3, 638],
      ['offered', null, 1362],
    ]);
    expect(groundsCents(groundsOf('return', LOT))).toBe(136_000 + 14_140);
    expect(groundsOf('replace', { ...LOT, wayBackCents: 0 })).toEqual([
      { kind: 'goodsReplaced', cells: null, cents: 136_000 },
    ]);
  });

  it('are none without a price, and none of a lot that is as claimed', () => {
    expect(kinds({ ...LOT, centsPerAh: null, centsPerCell: null })).toEqual([]);
    expect(kinds({ ...LOT, cells: [] })).toEqual([]);
  });

  it('never ask for a cell twice, nor for more than it cost', () => {
    fc.assert(
      fc.property(facts, (some) => {
        if (some.centsPerCell === null) return;
        // Each line is rounded on its own.
        expect(cellGroundsCents(some)).toBeLessThanOrEqual(
          some.cells.length * some.centsPerCell + 1.5,
        );
        for (const { cents: of } of groundsOf('partialRefund', some)) expect(of).toBeGreaterThan(0);
      }),
      { seed: 27, numRuns: 500 },
    );
  });

  it('add up to what is asked, whatever is asked', () => {
    fc.assert(
      fc.property(
        facts,
        fc.constantFrom('partialRefund' as const, 'return' as const, 'replace' as const),
        cents,
        (some, remedy, ask) => {
          const lines = carried(groundsOf(remedy, some), ask, 'told');
          expect(groundsCents(lines)).toBe(ask);
          expect(lines.filter(({ kind }) => kind === 'told' || kind === 'notAsked').length).toBe(
            ask === groundsCents(groundsOf(remedy, some)) ? 0 : 1,
          );
        },
      ),
      { seed: 27, numRuns: 500 },
    );
  });

  it('carry what the ways out propose to ask for, to the cent', () => {
    fc.assert(
      fc.property(facts, cents, fc.option(cents), (some, resaleCents, ungradedMostCents) => {
        const { askCents, breakEvenLeastCents } = remediesOf({
          resaleCents,
          ungradedMostCents,
          refundCents: some.refundCents ?? 0,
          returnFreightCents: some.wayBackCents,
          packingMinutes: 0,
          centsPerMinute: 0,
          partialRefundCents: some.offeredCents,
          replacementCents: null,
          mayNotShip: null,
          lackingCents: cellGroundsCents(some),
          testingCents: some.testingCents,
        });
        const grounds = groundsOf('partialRefund', {
          ...some,
          breakEvenCents: breakEvenLeastCents,
        });
        expect(groundsCents(grounds)).toBe(askCents);
      }),
      { seed: 27, numRuns: 500 },
    );
  });
});
