import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seededRandom } from '../src/statistics';
import { type BudgetKind, budgetPart, type Figure } from '../src/units';
import { medianOf, typedFigure, whatWouldSettle } from '../src/verdicts';

describe('three AC readings', () => {
  const reading = (repeats: number[], probe: 'terminal' | 'bar' = 'terminal') =>
    typedFigure('acResistance', {
      value: medianOf(repeats),
      repeats,
      probe,
      gainPct: 0.5,
      offset: 0,
      decimals: 2,
      source: 'test',
    });
  it('the median is kept, the spread is shown and widens the result', () => {
    const found = reading([0.52, 0.54, 0.53]);
    expect(found.value).toBe(0.53);
    expect(found.bound).toBe('exact');
    const contact = found.budget.find(({ name }) => name === 'probe contact')!;
    // Two degrees of freedom: Student’s factor is 4.53 where two is enough of many, less where the
    // meter itself carries a part.
    const bare = (0.67 * 0.02) / 1.693;
    expect(contact.standardUncertainty).toBeGreaterThan(1.3 * bare);
    expect(contact.standardUncertainty).toBeLessThan((4.53 / 2) * bare);
    expect(contact.basis).toContain('3 readings 0.020 mΩ apart');
    expect(contact.basis).toContain('for 2 degree(s) of freedom');
    expect(found.findings).toEqual([]);
  });
  it('a wide spread asks for clean terminals', () => {
    expect(reading([0.5, 0.9, 0.55]).findings.map(({ code }) => code)).toEqual(['readings-spread']);
  });
  it('over the bar the cell has at most this', () => {
    const found = reading([0.5, 0.5, 0.5], 'bar');
    expect(found.bound).toBe('atMost');
    expect(found.findings.map(({ code }) => code)).toEqual(['probe-over-joint']);
  });
  it('±2u of a median of three holds the true one in 93 % or more', () => {
    const random = seededRandom(77);
    let held = 0;
    for (let i = 0; i < 2000; i++) {
      const repeats = [0, 1, 2].map(() => 0.5 + 0.01 * random.normal());
      const { value, standardUncertainty } = reading(repeats);
      if (Math.abs(value - 0.5) <= 2 * standardUncertainty!) held++;
    }
    expect(held / 2000).toBeGreaterThan(0.93);
  });
  it('the standard deviation it gives is that of a median of three', () => {
    // Independent: scatter of medians of three normal values, σ = 1.
    const random = seededRandom(31);
    let [sum, sumSquares, claimed] = [0, 0, 0];
    const n = 40_000;
    for (let i = 0; i < n; i++) {
      const three = [random.normal(), random.normal(), random.normal()];
      const m = medianOf(three);
      sum += m;
      sumSquares += m * m;
      claimed += (0.67 * (Math.max(...three) - Math.min(...three))) / 1.693;
    }
    const scatter = Math.sqrt(sumSquares / n - (sum / n) ** 2);
    expect(claimed / n / scatter).toBeCloseTo(1, 1);
  });
});

describe('what would settle a result too close to call', () => {
  const figure = (
    value: number,
    parts: Partial<Record<BudgetKind, number>>,
    bound: Figure['bound'] = 'exact',
  ) => {
    const budget = (Object.entries(parts) as [BudgetKind, number][])
      .map(([kind, u]) => budgetPart(kind, u, ''))
      .sort((a, b) => b.standardUncertainty - a.standardUncertainty);
    const standardUncertainty = Math.sqrt(
      budget.reduce((s, p) => s + p.standardUncertainty ** 2, 0),
    );
    return { value, unit: 'Ah' as const, bound, budget, standardUncertainty };
  };
  const limit = { value: 100, direction: 'atLeast' as const };
  it('nothing, where the verdict has fallen', () => {
    expect(whatWouldSettle(figure(105, { currentGain: 0.3 }), limit, 1)).toBeNull();
    expect(whatWouldSettle(figure(95, { currentGain: 0.3 }), limit, 1)).toBeNull();
  });
  it('the one component whose absence is enough', () => {
    const found = whatWouldSettle(
      figure(100.4, { currentGain: 0.3, cutoffVoltage: 0.1 }),
      limit,
      1,
    )!;
    expect(found.neededExpanded).toBeCloseTo(0.4, 10);
    expect(found.ways[0]).toContain('without current gain it would be 0.2');
  });
  it('several, where one is not enough', () => {
    const found = whatWouldSettle(
      figure(100.3, { currentGain: 0.3, temperature: 0.28, rate: 0.05 }),
      limit,
      1,
    )!;
    expect(found.ways[0]).toContain('current gain and temperature');
  });
  it('another run only where by its own numbers it would settle it; no mean of runs', () => {
    const settled = whatWouldSettle(
      figure(100.4, { holeBridged: 0.3, currentGain: 0.1 }),
      limit,
      1,
    )!;
    expect(settled.ways[settled.ways.length - 1]).toMatch(
      /^Or run it again without a hole in its log: U would be 0\.2\.$/,
    );
    const scattered = whatWouldSettle(
      figure(100.4, { repeatability: 0.3, currentGain: 0.1 }),
      limit,
      1,
    )!;
    expect(scattered.ways.join(' ')).not.toMatch(/run it again|mean of/);
    const tooWide = whatWouldSettle(
      figure(100.4, { holeBridged: 0.3, currentGain: 0.4 }),
      limit,
      1,
    )!;
    expect(tooWide.ways.join(' ')).not.toMatch(/Or run it again/);
  });
  it('on the limit itself it says so', () => {
    const found = whatWouldSettle(figure(100.001, { currentGain: 0.3 }), limit, 1)!;
    expect(found.ways[0]).toContain('lies on the limit');
  });
  it('a run that stopped early is to be run down', () => {
    const found = whatWouldSettle(figure(98, { currentGain: 0.1 }, 'atLeast'), limit, 1)!;
    expect(found.ways).toEqual([
      'Run it down to the cut-off: this run stopped before, so it only says at least.',
    ]);
  });
  it('law: with the expanded uncertainty it asks for, the verdict falls', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -2, max: 2, noNaN: true }),
        fc.double({ min: 0.01, max: 3, noNaN: true }),
        fc.double({ min: 0.1, max: 2, noNaN: true }),
        (margin, u, guard) => {
          const found = whatWouldSettle(figure(100 + margin, { currentGain: u }), limit, guard);
          if (!found || found.neededExpanded === null || margin === 0) return;
          const narrow = figure(100 + margin, {
            currentGain: (found.neededExpanded / 2) * (1 - 1e-9),
          });
          expect(whatWouldSettle(narrow, limit, guard)).toBeNull();
        },
      ),
    );
  });
});
