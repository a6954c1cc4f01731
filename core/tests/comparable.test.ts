import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  carryFigureToClaim,
  type ConditionedCapacity,
  factorsOfModel,
  HOUSE_FACTORS,
  type RunConditions,
} from '@dusk-tally/core/evidence';
import { seededRandom } from '@dusk-tally/core/statistics';
import { type BudgetKind, budgetPart, combineBudget, type Figure } from '@dusk-tally/core/units';

const raw = (value: number, bound: Figure['bound'] = 'exact'): Figure => ({
  quantity: 'capacity',
  value,
  unit: 'Ah',
  bound,
  method: { name: 'capacity-to-cut-off', version: 1 },
  inputs: [],
  steps: [],
  findings: [],
  ...combineBudget([budgetPart('currentGain', 0.003 * value, 'stated')]),
});
const claim = { rateIt: 0.2, cutoffV: 2.5, temperatureC: 25 };
const run = (more: Partial<RunConditions> = {}): RunConditions => ({
  meanCurrentA: 20,
  ratedAh: 100,
  meanTemperatureC: 25,
  restAfterChargeS: 3600,
  restBeforeS: 3600,
  ...more,
});
const component = (figure: Figure, kind: BudgetKind) =>
  figure.budget.find((part) => part.kind === kind)?.standardUncertainty ?? 0;

describe('a result carried to the claim’s conditions', () => {
  test('worked example: 101.3 Ah at 0.5 It and 19 °C', () => {
    const result = carryFigureToClaim(
      raw(101.3),
      claim,
      run({ meanCurrentA: 50, meanTemperatureC: 19 }),
    );
    expect(result.comparable).toBe(true);
    const factor = Object.fromEntries(
      result.comparable ? result.corrections.map((c) => [c.kind, c]) : [],
    );
    expect(factor.temperature!.factor).toBeCloseTo(1.03, 12);
    expect(factor.rate!.factor).toBeCloseTo(1.02787, 5);
    expect(result.estimate!.value).toBeCloseTo(107.25, 2);
    expect(factor.temperature!.relativeUncertainty).toBeCloseTo(0.012, 12);
    expect(factor.rate!.relativeUncertainty).toBeCloseTo(Math.log(2.5) * 0.015, 12);
    expect(component(result.estimate!, 'temperature')).toBeCloseTo(0.012 * 107.25, 2);
    expect(component(result.estimate!, 'currentGain')).toBeCloseTo(0.003 * 107.25, 2);
    expect(result.estimate!.steps.join(' ')).toContain('101.300 Ah');
  });

  test('under the claim’s own conditions nothing changes', () => {
    const result = carryFigureToClaim(raw(100), claim, run());
    expect(result).toMatchObject({ comparable: true, corrections: [], remarks: [] });
    expect(result.estimate!.value).toBe(100);
    expect(result.estimate!.standardUncertainty).toBeCloseTo(0.3, 12);
  });

  test.each([
    ['11 K away', { meanTemperatureC: 14 }, 'claimed at 25 °C'],
    ['too cold', { meanTemperatureC: 9.9 }, 'not from below 10 °C'],
    ['4.1 times the rate', { meanCurrentA: 82 }, 'claimed at 0.2 It'],
    ['a fifth of the rate', { meanCurrentA: 4 }, 'a factor of at most 4'],
  ])('%s: no number', (_, more, words) => {
    const result = carryFigureToClaim(raw(100), claim, run(more));
    expect(result.comparable).toBe(false);
    expect(result.estimate).toBeNull();
    expect(!result.comparable && result.reasons.join(' ')).toContain(words);
  });

  test('both ends of what is allowed still give one', () => {
    for (const more of [
      { meanTemperatureC: 15 },
      { meanTemperatureC: 35 },
      { meanCurrentA: 80 },
      { meanCurrentA: 5 },
    ])
      expect(carryFigureToClaim(raw(100), claim, run(more)).comparable).toBe(true);
  });

  test('through 25 °C each side counts with its own coefficient', () => {
    const { estimate: figure } = carryFigureToClaim(
      raw(100),
      { ...claim, temperatureC: 28 },
      run({ meanTemperatureC: 20 }),
    );
    expect(figure!.value).toBeCloseTo(100 * (1 + 5 * 0.005 + 3 * 0.002), 10);
  });

  test('a skipped rest adds half a per cent; an unseen one is only said', () => {
    const skipped = carryFigureToClaim(
      raw(100),
      claim,
      run({ restAfterChargeS: 300, restBeforeS: 300 }),
    );
    expect(component(skipped.estimate!, 'missingRest')).toBeCloseTo(0.5, 12);
    expect(skipped.estimate!.value).toBe(100);
    const unseen = carryFigureToClaim(
      raw(100),
      claim,
      run({ restAfterChargeS: null, restBeforeS: 120 }),
    );
    expect(component(unseen.estimate!, 'missingRest')).toBe(0);
    expect(unseen.remarks).toEqual([expect.stringContaining('2 min of rest')]);
  });

  test('a channel that reads high is divided out', () => {
    const channel = { factor: 1.035, relativeUncertainty: 0.001, text: 'channel 3 reads high' };
    const { estimate: figure } = carryFigureToClaim(
      raw(103.5),
      claim,
      run({ meanCurrentA: 20.7 }),
      HOUSE_FACTORS,
      channel,
    );
    expect(figure!.value).toBeCloseTo(100, 10);
    expect(component(figure!, 'channelBias')).toBeCloseTo(0.1, 10);
    expect(figure!.steps).toContain('channel 3 reads high');
  });

  test('at least stays at least, and nobody says more than the claim asks', () => {
    expect(carryFigureToClaim(raw(90, 'atLeast'), claim, run()).estimate!.bound).toBe('atLeast');
    const open = carryFigureToClaim(
      raw(100),
      { rateIt: null, cutoffV: 2.5, temperatureC: null },
      run({ meanCurrentA: 90, meanTemperatureC: -5 }),
    );
    expect(open).toMatchObject({ comparable: true, corrections: [] });
  });

  test('the uncertainty never shrinks, and there and back is the same', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 15, max: 35, noNaN: true }),
        fc.double({ min: 0.06, max: 0.7, noNaN: true }),
        (temperatureC, rateIt) => {
          const conditions = run({ meanCurrentA: 100 * rateIt, meanTemperatureC: temperatureC });
          const there = carryFigureToClaim(raw(100), claim, conditions);
          const relative = there.estimate!.standardUncertainty! / there.estimate!.value;
          expect(relative).toBeGreaterThanOrEqual(0.003 - 1e-12);
          const rate = there.comparable && there.corrections.find((c) => c.kind === 'rate');
          const back = carryFigureToClaim(
            raw(100),
            { ...claim, rateIt, temperatureC: 25 },
            run({ meanCurrentA: 20 }),
          );
          const rateBack = back.comparable && back.corrections.find((c) => c.kind === 'rate');
          if (rate && rateBack) expect(rate.factor * rateBack.factor).toBeCloseTo(1, 10);
        },
      ),
      { numRuns: 200 },
    );
  });
});

describe('what a model does, learnt from its own runs', () => {
  /** Runs of cells that follow k and a coefficient per K, with some noise. */
  const runs = (
    seed: number,
    { k, perK, noise }: { k: number; perK: number; noise: number },
    conditions: [number, number][],
  ): ConditionedCapacity[] => {
    const { normal } = seededRandom(seed);
    return Array.from({ length: 5 }, (_, c) => {
      const holds = 100 + 2 * normal();
      return conditions.map(([currentA, temperatureC]) => ({
        cell: `c${c}`,
        currentA,
        temperatureC,
        channel: 'K',
        capacityAh:
          holds *
          (currentA / 20) ** (1 - k) *
          Math.exp(perK * Math.min(0, temperatureC - 25) + noise * normal()),
      }));
    }).flat();
  };
  const rates: [number, number][] = [
    [20, 25],
    [50, 25],
    [100, 26],
  ];
  const colds: [number, number][] = [
    [20, 25],
    [20, 18],
    [20, 12],
  ];

  test('a rate set gives k within its stated error, nine times in ten and more', () => {
    let within = 0;
    for (let seed = 1; seed <= 100; seed++) {
      const found = factorsOfModel(runs(seed, { k: 1.045, perK: 0, noise: 0.002 }, rates)).rate;
      if (Math.abs(found.k - 1.045) < 2.3 * found.uK) within++;
      expect(found.uK).toBeLessThan(0.003);
    }
    expect(within).toBeGreaterThanOrEqual(92);
  });

  test('a temperature set gives the coefficient below 25 °C and keeps the default above', () => {
    const found = factorsOfModel(
      runs(3, { k: 1.03, perK: 0.007, noise: 0.001 }, colds),
    ).temperature;
    expect(Math.abs(found.belowPerK - 0.0072)).toBeLessThan(0.0006);
    expect(found.abovePerK).toBe(HOUSE_FACTORS.temperature.abovePerK);
    expect(found.source).toContain('house default above 25 °C');
  });

  test('runs that hold no set leave the house defaults', () => {
    expect(factorsOfModel([])).toEqual(HOUSE_FACTORS);
    const alike = runs(1, { k: 1.03, perK: 0, noise: 0.001 }, [
      [20, 25],
      [20, 25],
    ]);
    expect(factorsOfModel(alike)).toEqual(HOUSE_FACTORS);
    // Rate and temperature changed together: which did it cannot be told, and both stay open.
    const mixed = factorsOfModel(
      runs(1, { k: 1.05, perK: 0.005, noise: 0.001 }, [
        [20, 25],
        [60, 12],
      ]),
    );
    expect(mixed.rate.uK).toBeGreaterThan(0.009);
    expect(Math.abs(mixed.rate.k - 1.05)).toBeLessThan(2 * mixed.rate.uK);
  });

  test('a fitted model narrows what a carried result adds', () => {
    const factors = factorsOfModel(runs(2, { k: 1.04, perK: 0, noise: 0.001 }, rates));
    const conditions = run({ meanCurrentA: 50 });
    const house = carryFigureToClaim(raw(100), claim, conditions);
    const own = carryFigureToClaim(raw(100), claim, conditions, factors);
    expect(component(own.estimate!, 'rate')).toBeLessThan(component(house.estimate!, 'rate') / 3);
    expect(own.estimate!.value).toBeCloseTo(100 * 2.5 ** 0.04, 0);
  });
});
