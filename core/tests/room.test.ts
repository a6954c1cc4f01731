import { describe, expect, it } from 'vitest';
import { carryToClaim, unrecordedTemperature } from '../src/evidence';
import { underConditions } from '../src/verdicts';

const RAW = { value: 100, standardUncertainty: 0.3, bound: 'exact' as const };
const CLAIM = { rateIt: null, cutoffV: 2.5, temperatureC: 25 };
const RUN = {
  meanCurrentA: 20,
  ratedAh: 100,
  meanTemperatureC: null,
  restAfterChargeS: 3600,
  restBeforeS: 3600,
};

/** What the unknown temperature adds, as a share, and what it may have taken at worst. */
function added(roomC?: readonly [number, number]) {
  const carried = carryToClaim(RAW, CLAIM, { ...RUN, roomC });
  if (!carried.comparable) throw new Error('Expected it to be comparable.');
  const { relativeUncertainty, mayHaveTaken, text, factor } = carried.corrections.find(
    ({ kind }) => kind === 'temperature',
  )!;
  return { relativeUncertainty, mayHaveTaken, text, factor };
}

describe('a temperature nobody recorded', () => {
  it('adds 1.7 % where the lab keeps no range of its room, and corrects nothing', () => {
    const { relativeUncertainty, mayHaveTaken, text, factor } = added();
    // 6 K at 0.5 %/K over √3.
    expect(relativeUncertainty).toBeCloseTo(0.0173, 4);
    expect(mayHaveTaken).toBeCloseTo(0.05, 12);
    expect(factor).toBe(1);
    expect(text).toContain('± 6 K');
  });

  it('adds what the lab’s own room leaves open, to its further end', () => {
    const { relativeUncertainty, mayHaveTaken, text } = added([20, 26]);
    expect(relativeUncertainty).toBeCloseTo((5 * 0.005) / Math.sqrt(3), 12);
    expect(mayHaveTaken).toBeCloseTo(0.025, 12);
    expect(text).toContain('kept at 20 to 26 °C');
    // A room warmer than the claim has taken nothing.
    expect(added([26, 30]).mayHaveTaken).toBe(0);
  });

  it.each([
    [[24, 26], 1, 1],
    [[15, 24], 10, 10],
    [[28, 33], 8, 0],
  ] as const)('a room of %j is at most %f K from 25 °C, %f K below', (roomC, kelvin, belowK) => {
    expect(unrecordedTemperature(25, roomC)).toMatchObject({ kelvin, belowK });
  });

  it('is added to an AC resistance claimed at a temperature in the same way', () => {
    const read = (roomC?: readonly [number, number]) =>
      underConditions('acResistance', { ...RAW, roomC }, { temperatureC: 25 }).corrections[0]!;
    expect(read().relativeUncertainty).toBeCloseTo((0.005 * 6) / Math.sqrt(3), 12);
    expect(read([24, 26]).relativeUncertainty).toBeCloseTo(0.005 / Math.sqrt(3), 12);
  });
});
