import { GRADE_FIGURE_NAMES, SHIPPED_SCHEME } from '@dusk-tally/core/verdicts';
import {
  landedCost,
  paybackChance,
  remediesOf,
  testingCost,
  unitCosts,
} from '@dusk-tally/core/money';
import { conditionInput } from '@dusk-tally/lab/inputs';
import type { LotBooks } from '@dusk-tally/lab/money';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { booksSheets } from '@/features/money/books-workbook';
import { paybackWords, returnRiskWords } from '@/features/money/ways-words';
import { overtakenWords, proposalOf, windowWords } from '@/features/money/dispute/words';
import { amount, marginWords, percent } from '@/features/suppliers/words';
import {
  CONDITION_KINDS,
  conditionWords,
  scopeWords,
  usualLimit,
} from '@/features/verdicts/schemes/condition-words';
import { flowLayout } from '@/features/verdicts/schemes/flow-layout';

const outlay = {
  priceCents: 9005,
  discountCents: 105,
  freightCents: 1005,
  dutyCents: 0,
  feesCents: 0,
  minutes: 30,
  centsPerMinute: 75,
};
const { parts, totalCents } = landedCost(outlay);
const books: LotBooks = {
  currency: 'EUR',
  houseCurrency: 'EUR',
  kept: {
    minutes: 30,
    centsPerMinute: 75,
    line: 0.8,
    gradePrices: { First: 4000 },
    refundCents: null,
    returnFreightCents: 0,
    packingMinutes: 0,
    partialRefundCents: 0,
    replacementCents: null,
    asksTesting: false,
    rate: null,
    rateOn: null,
    benchCentsPerHour: 20,
    centsPerKwh: 30,
    claimedCycles: null,
    returnDays: null,
    partialDays: null,
    version: 1,
  },
  typed: {} as LotBooks['typed'],
  hasPrice: true,
  parts,
  totalCents,
  units: unitCosts(totalCents, [{ wh: 330, stateOfHealth: 1 }]),
  energy: { measured: 1, computed: 0, nominalV: 3.2 },
  held: [],
  values: [{ grade: 'First', cells: 1, priceCents: 4000, cents: 4000 }],
  ungraded: 0,
  resaleCents: 4000,
  marginCents: 4000 - totalCents,
  testing: {
    ...testingCost({ benchHours: 5, dischargedKwh: 0.4, benchCentsPerHour: 20, centsPerKwh: 30 }),
    benchHours: 5,
  },
  marginAfterTestingCents: 4000 - totalCents - 115,
  throughputCents: null,
  proposedMinutes: 0,
  inHouse: null,
  centsPerClaimedAh: 85.6,
  centsPerCell: 8900,
  grounds: { partialRefund: [], return: [], replace: [] },
  shortfall: null,
  pricedFor: null,
  payback: paybackChance({ ended: 0, paid: 0 }, { ended: 0, paid: 0 }),
  remedies: remediesOf({
    resaleCents: 4000,
    refundCents: 8900,
    returnFreightCents: 0,
    packingMinutes: 0,
    centsPerMinute: 75,
    partialRefundCents: 0,
    replacementCents: null,
    mayNotShip: null,
    lackingCents: 0,
    ungradedMostCents: 0,
    testingCents: null,
  }),
  lines: [
    {
      cellId: 1,
      number: 'B-0001',
      grade: 'First',
      capacityAh: 104.2,
      capacityU: 0.6,
      bound: 'exact',
      stateOfHealth: 1,
      wh: 330,
      costCents: totalCents,
      bringsCents: 4000,
    },
  ],
};

describe('the picture from grade to grade', () => {
  const GRADES = ['First', 'Second', 'Utility', null];
  const flows = fc
    .uniqueArray(
      fc.tuple(
        fc.constantFrom(...GRADES),
        fc.constantFrom(...GRADES),
        fc.integer({ min: 1, max: 500 }),
      ),
      { minLength: 1, maxLength: 16, selector: ([from, to]) => `${from} ${to}` },
    )
    .map((all) => all.map(([from, to, cells]) => ({ from, to, cells })));

  it('shows every cell once on each side, and every way with its cells', () => {
    fc.assert(
      fc.property(flows, (some) => {
        const all = some.reduce((sum, { cells }) => sum + cells, 0);
        const { left, right, bands, height } = flowLayout(
          some,
          { left: GRADES, right: GRADES },
          200,
        );
        for (const side of [left, right]) {
          expect(side.reduce((sum, bar) => sum + bar.cells, 0)).toBe(all);
          expect(side.reduce((sum, bar) => sum + bar.height, 0)).toBeCloseTo(200, 6);
        }
        expect(bands).toHaveLength(some.length);
        for (const band of bands) {
          const [from, to] = [
            left.find(({ grade }) => grade === band.from)!,
            right.find(({ grade }) => grade === band.to)!,
          ];
          expect(band.left).toBeGreaterThanOrEqual(from.y - 1e-9);
          expect(band.left + band.thickness).toBeLessThanOrEqual(from.y + from.height + 1e-6);
          expect(band.right).toBeGreaterThanOrEqual(to.y - 1e-9);
          expect(band.right + band.thickness).toBeLessThanOrEqual(to.y + to.height + 1e-6);
        }
        expect(height).toBeGreaterThanOrEqual(200);
      }),
    );
  });

  it('lays no way over another on its side', () => {
    fc.assert(
      fc.property(flows, (some) => {
        const { bands } = flowLayout(some, { left: GRADES, right: GRADES }, 200);
        for (const side of ['left', 'right'] as const) {
          const edges = bands
            .map((band) => [band[side], band[side] + band.thickness] as const)
            .sort((a, b) => a[0] - b[0]);
          for (let i = 1; i < edges.length; i++)
            expect(edges[i]![0]).toBeGreaterThanOrEqual(edges[i - 1]![1] - 1e-6);
        }
      }),
    );
  });
});

describe('conditions of grades', () => {
  it('every kind that is offered can be kept as it begins, and is said with its unit', () => {
    expect(CONDITION_KINDS.length).toBe(GRADE_FIGURE_NAMES.length + 3);
    for (const kind of CONDITION_KINDS) {
      const condition = usualLimit(kind);
      expect(conditionInput.safeParse(condition).success, kind).toBe(true);
      expect(conditionWords(condition).length).toBeGreaterThan(5);
    }
    expect(SHIPPED_SCHEME.grades[0]!.conditions.map(conditionWords)).toEqual([
      'SoH at least 100 %',
      'AC resistance against claim at most 115 %',
      'loses no charge at rest',
      'worst finding of its inspection: a note at most',
    ]);
    expect(conditionWords({ kind: 'massOff', limit: 0.035 })).toBe(
      'mass off the claim at most 3.5 %',
    );
    expect(conditionWords({ kind: 'deepestV', limit: 2.5 })).toContain('2.5 V');
  });

  it('a scheme is for what it says', () => {
    const models = [{ id: 7, name: 'Sedge P104' }];
    expect(scopeWords('model:7', models)).toBe('Sedge P104');
    expect(scopeWords('chemistry:LFP', models)).toBe('all LFP');
    expect(scopeWords('house', models)).toContain('without grades of its own');
  });
});

describe('the books as a workbook', () => {
  it('holds the same amounts as the page, as numbers', () => {
    const [summary, cells] = booksSheets('L-001', books);
    const row = (name: string) => summary!.lines.find(([first]) => first === name)!;
    expect(row('landed')[1]).toBe(totalCents / 100);
    const amounts = parts.map(({ name }) => Number(row(name)[1]));
    expect(amounts.reduce((sum, one) => sum + one, 0)).toBeCloseTo(totalCents / 100, 9);
    expect(row('after testing')[3]).toBe((4000 - totalCents - 115) / 100);
    expect(row('return')[1]).toBe(89);
    expect(row('replace')[2]).toBe('No replacement is offered.');
    expect(cells!.lines[1]).toEqual([
      'B-0001',
      'First',
      104.2,
      0.6,
      'exact',
      1,
      330,
      totalCents / 100,
      40,
    ]);
    // What is not known is an empty field, never 0.
    const unknown = booksSheets('L-001', { ...books, marginCents: null, resaleCents: null });
    const margin = unknown[0]!.lines.find(([first]) => first === 'over what it cost')!;
    expect(margin[3]).toBeNull();
    const free = booksSheets('L-001', {
      ...books,
      hasPrice: false,
      lines: [{ ...books.lines[0]!, bound: 'atLeast' }],
    });
    const cost = (name: string) => free[0]!.lines.find(([first]) => first === name)![1];
    expect(['price', 'landed', 'a cell', 'a kWh in good cells'].map(cost)).toEqual([
      null,
      null,
      null,
      null,
    ]);
    expect(free[1]!.lines[1]![4]).toBe('at least');
    expect(free[1]!.lines[1]![7]).toBeNull();
  });
});

describe('words of money', () => {
  it('say how long a window is open yet', () => {
    expect(windowWords(null, null)).toMatch(/No window/);
    expect(windowWords('2026-12-01', 3)).toMatch(/3 more days, until 2026-12-01/);
    expect(windowWords('2026-12-01', 1)).toMatch(/1 more day,/);
    expect(windowWords('2026-12-01', 0)).toMatch(/closes today/);
    expect(windowWords('2026-12-01', -2)).toMatch(/closed on 2026-12-01/);
  });
  it('round to what is shown', () => {
    expect([percent(0.8965), marginWords(-0.028), marginWords(0.002)]).toEqual([
      '90 %',
      '−2.8 %',
      '+0.2 %',
    ]);
    expect(amount(17_620.4)).toBe('176.20');
  });
});

describe('what returning risks', () => {
  it('is told by the chance the refund must come with', () => {
    expect(returnRiskWords(0.781)).toMatch(/gone before the money.*more than 78 %/);
    expect(returnRiskWords(1.2)).toMatch(/Even a sure refund/);
  });

  it('is never told from nothing, and names what it is counted from', () => {
    const none = { ended: 0, paid: 0 };
    expect(paybackWords(paybackChance(none, none))).toMatch(/nobody can say/);
    expect(paybackWords(paybackChance(none, { ended: 4, paid: 3 }))).toMatch(
      /^None has ended with this supplier yet; of 4 with others 3 were paid: about 67 % \(/,
    );
    expect(paybackWords(paybackChance({ ended: 3, paid: 1 }, { ended: 4, paid: 2 }))).toMatch(
      /^Of 3 that ended with this supplier 1 was paid, of 4 with all 2: about 40 % \(/,
    );
  });
});

describe('what a dispute asks', () => {
  it('is proposed by the ways out, else by what the grounds carry', () => {
    const grounds = {
      partialRefund: [
        { kind: 'missingCharge' as const, cells: 3, cents: 638 },
        { kind: 'testing' as const, cells: null, cents: 100 },
      ],
      return: [],
      replace: [],
    };
    expect(proposalOf({ ...books, remedies: null, grounds }).askCents).toBe(738);
    expect(proposalOf({ ...books, grounds }).askCents).toBe(books.remedies!.askCents);
    expect(proposalOf({ ...books, remedies: null }).askCents).toBeNull();
  });

  it('says of letters and files that they are overtaken, and by what', () => {
    expect(overtakenWords([], '60.00 EUR')).toBeNull();
    expect(overtakenWords(['amount'], '60.00 EUR')).toBe('Overtaken: 60.00 EUR is asked now.');
    expect(overtakenWords(['amount', 'evidence'], '60.00 EUR')).toBe(
      'Overtaken: 60.00 EUR is asked now, and results or the order changed since.',
    );
  });
});
