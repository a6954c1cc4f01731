import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fullTooEarly, loadTestStep, packAgainstWeakest, rateStood } from '../src/bench';
import { seededRandom } from '../src/statistics';

describe('full too early', () => {
  const bank = { cells: 4, ratedAh: 104, fromStateOfCharge: 0.3, supplyA: 10 };
  it('four 104 Ah cells full after 21 h hold at most 75 Ah each', () => {
    const seen = fullTooEarly(bank, 21);
    expect(seen.leastHours).toBeCloseTo(29.12, 2);
    expect(seen.atMostIntoEachAh).toBeCloseTo(52.5, 6);
    expect(seen.atMostAh).toBeCloseTo(75, 6);
    expect(seen.tooEarly).toBe(true);
    expect(seen.sentence).toContain('29.1 h');
  });
  it('says nothing against a claim when the time is about right, or the start not known so well', () => {
    expect(fullTooEarly(bank, 29.5).tooEarly).toBe(false);
    expect(fullTooEarly(bank, 28, 0.1).tooEarly).toBe(false);
    expect(() => fullTooEarly({ ...bank, fromStateOfCharge: 1 }, 3)).toThrow(RangeError);
  });
});

describe('a string under load', () => {
  const step = {
    stateOfChargePct: 70,
    lowA: 30,
    highA: 60,
    lowV: [3.28, 3.281, 3.279, 3.28, 3.28, 3.281, 3.28, 3.279],
    highV: [3.262, 3.263, 3.26, 3.262, 3.226, 3.263, 3.261, 3.261],
    jointC: [24, 24.5, 25, 33, 26, 25, 24, 24],
  };
  it('finds sag, ΔV / ΔI and power of each cell, and the one that stands out', () => {
    const found = loadTestStep(step);
    expect(found.cells[0]!.sagV).toBeCloseTo(0.018, 9);
    expect(found.cells[0]!.mohm).toBeCloseTo(0.6, 9);
    expect(found.cells[0]!.watts).toBeCloseTo(195.72, 6);
    expect(found.cells.filter(({ standsOut }) => standsOut).map(({ place }) => place)).toEqual([5]);
    expect(found.spreadV).toBeCloseTo(0.037, 9);
  });
  it('tells cells apart from the last digit of the meter on, by the current that shows it', () => {
    // 1 mV at 30 A more is 0.033 mΩ: a spread of 0.05 mΩ is told, at 3 A it would not be.
    const place = [0, 0.0015, -0.0015, 0.003, -0.003, 0.0015, -0.0015, 0.018];
    const lowV = place.map(() => 3.28);
    const highV = place.map((extra) => 3.262 - extra);
    const wide = loadTestStep({ ...step, lowV, highV, jointC: [] });
    expect(wide.cells.map(({ z }) => z === null)).toEqual(place.map(() => false));
    expect(wide.cells.filter(({ standsOut }) => standsOut).map(({ place: at }) => at)).toEqual([8]);
    const coarse = loadTestStep({ ...step, lowV, highV, jointC: [], lastDigitV: 0.01 });
    expect(coarse.cells.every(({ z }) => z === null)).toBe(true);
    // The same readings mean ten times the resistance at a tenth of the current: told apart as before.
    const small = loadTestStep({ ...step, lowA: 3, highA: 6, lowV, highV, jointC: [] });
    expect(small.cells.every(({ z }) => z !== null)).toBe(true);
  });
  it('finds the joint that is hot by itself, not the one beside it', () => {
    expect(loadTestStep(step).hotJoints).toEqual([{ joint: 4, celsius: 33, aboveK: 7 }]);
  });
  it('says how sure each resistance is, as throwing dice on the readings does', () => {
    const random = seededRandom(4);
    const drawn: number[] = [];
    for (let i = 0; i < 4000; i++) {
      const digit = () => (random.uniform() - 0.5) * 0.001;
      const gain = 1 + 0.01 * (2 * random.uniform() - 1);
      drawn.push(((3.28 + digit() - 3.226 - digit()) / (30 * gain)) * 1000);
    }
    const mean = drawn.reduce((sum, one) => sum + one, 0) / drawn.length;
    const deviation = Math.sqrt(
      drawn.reduce((sum, one) => sum + (one - mean) ** 2, 0) / (drawn.length - 1),
    );
    expect(loadTestStep(step).cells[4]!.mohmU / deviation).toBeCloseTo(1, 1);
    const finer = loadTestStep({ ...step, lastDigitV: 0.0001, currentPct: 0.1 });
    expect(finer.cells[4]!.mohmU).toBeLessThan(loadTestStep(step).cells[4]!.mohmU / 5);
  });
  it('the highest load it stood is the highest without a hot joint', () => {
    const cool = { highA: 30, result: { hotJoints: [] } };
    const hot = { highA: 60, result: loadTestStep(step) };
    expect(rateStood([cool, hot], 100)).toEqual({ amps: 30, it: 0.3 });
    expect(rateStood([hot], 100)).toBeNull();
    expect(rateStood([cool], 0)).toBeNull();
  });
  it('a pack gives what its weakest cell can, plus what balancing moved', () => {
    const weakest = { ah: 100, u: 0.5, name: 'B-0104' };
    expect(packAgainstWeakest({ ah: 99.5, u: 0.5 }, weakest, 0).says).toBe('agrees');
    expect(packAgainstWeakest({ ah: 103, u: 0.5 }, weakest, 0)).toMatchObject({ says: 'more' });
    expect(packAgainstWeakest({ ah: 103, u: 0.5 }, weakest, 2.5).says).toBe('agrees');
    const less = packAgainstWeakest({ ah: 95, u: 0.5 }, weakest, 0);
    expect(less.differenceAh).toBe(-5);
    expect(less.expandedAh).toBeCloseTo(2 * Math.SQRT1_2, 9);
    expect(less.sentence).toContain('5.0 Ah (U 1.4 Ah) less than its weakest cell');
    expect(() => packAgainstWeakest({ ah: -1, u: 0 }, weakest, 0)).toThrow(RangeError);
  });
  it('whatever the pack gave, exactly one of the three is said, and more never turns to less', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 300, noNaN: true }),
        fc.double({ min: 0, max: 5, noNaN: true }),
        fc.double({ min: 0, max: 10, noNaN: true }),
        (ah, u, balanced) => {
          const order = { less: 0, agrees: 1, more: 2, open: NaN };
          const says = (given: number) =>
            order[packAgainstWeakest({ ah: given, u }, { ah: 100, u, name: 'A' }, balanced).says];
          expect(says(ah)).toBeLessThanOrEqual(says(ah + 1));
        },
      ),
    );
  });
  it('is refused without two loads or with a cell not read', () => {
    expect(() => loadTestStep({ ...step, highA: 30 })).toThrow('second load');
    expect(() => loadTestStep({ ...step, highV: step.highV.slice(1) })).toThrow('as many');
    expect(() => loadTestStep({ ...step, lowV: [NaN, ...step.lowV.slice(1)] })).toThrow('cell 1');
  });
});
