import { describe, expect, it } from 'vitest';
import { cutSections, mainDischarge } from '../src/evidence';
import { CounterWitness } from '../src/evidence/counter-witness';
import { intervalCrossing } from '../src/evidence/crossing';
import { currentDeadBandA } from '../src/evidence/reading/sign-current';
import { splitLine } from '../src/evidence/reading/sampled-lines';
import { RunningTotals } from '../src/evidence/running-totals';
import { seededRandom } from '../src/statistics';
import { bareTrace } from '../testing/trace-of';

/** A discharge of 3.6 A in steps of 10 s, with the instrument’s own counter to the milliampere-hour. */
function counted(rows: number, counterOf: (ah: number) => number) {
  const timeS = Float64Array.from({ length: rows }, (_, i) => 10 * i);
  const counterAh = timeS.map((t) => Math.round(counterOf((3.6 * t) / 3600) * 1000) / 1000);
  const trace = bareTrace(
    {
      timeS,
      voltageV: timeS.map((t) => 3.4 - 0.0001 * t),
      currentA: new Float64Array(rows).fill(-3.6),
    },
    { timeS: 0, voltageV: 4 },
  );
  return { trace: { ...trace, counterAh }, parts: [{ from: 0, to: rows - 1 }] };
}

describe('a counter as witness', () => {
  const witness = (counterOf: (ah: number) => number) => {
    const { trace, parts } = counted(101, counterOf);
    return CounterWitness.of(trace, parts, new Set());
  };
  it('counts up or down, and says how much lies between two rows', () => {
    for (const found of [witness((ah) => ah), witness((ah) => 10 - ah)]) {
      expect(found!.resolutionAh).toBeCloseTo(0.01, 9);
      expect(found!.between(10, 60, 1)).toBeCloseTo(0.5, 9);
      expect(found!.between(10, 10, 1)).toBe(0);
    }
  });
  it('is believed up to its own steps beyond what can have flowed, and no further', () => {
    const found = witness((ah) => ah)!;
    // 0.5 Ah by the counter, in steps of 0.01 Ah.
    expect(found.between(10, 60, 0.485)).toBeCloseTo(0.5, 9);
    expect(found.between(10, 60, 0.475)).toBeNull();
    expect(found.between(60, 10, 1)).toBeNull();
  });
  it('that disagrees with the current by more than two hundredths, or stands still, is none', () => {
    expect(witness((ah) => 1.015 * ah)).not.toBeNull();
    expect(witness((ah) => 1.08 * ah)).toBeNull();
    expect(witness(() => 4)).toBeNull();
  });
});

describe('a crossing inside one interval', () => {
  /** Rows of 10 s under load, and enough of them behind those that matter for a discharge. */
  const totalsOf = (first: readonly number[]) => {
    const voltages = [...first, ...Array.from({ length: 60 }, (_, i) => 1.7 - 0.001 * i)];
    const timeS = Float64Array.from(voltages, (_, i) => 10 * i);
    const trace = bareTrace(
      {
        timeS,
        voltageV: Float64Array.from(voltages),
        currentA: new Float64Array(voltages.length).fill(-3.6),
      },
      { timeS: 0, voltageV: 4 },
    );
    return new RunningTotals(trace, mainDischarge(cutSections(trace))!, 0);
  };
  it('with one row before it alone is a straight chord that may be bent by anything', () => {
    const totals = totalsOf([3, 2.4, 2.3, 2.2, 2.1]);
    const { share, bendShare } = intervalCrossing(totals, 1, 2.5);
    expect(share).toBeCloseTo(5 / 6, 9);
    expect(bendShare).toBeCloseTo((5 / 6) * (1 / 6), 9);
  });
  it('of a straight fall it is the chord; at a knee the cut-off is met later', () => {
    const straight = intervalCrossing(totalsOf([3, 2.8, 2.6, 2.4, 2.2]), 3, 2.5);
    expect(straight.share).toBeCloseTo(0.5, 9);
    expect(straight.bendShare).toBeCloseTo(0, 9);
    const knee = intervalCrossing(totalsOf([3, 2.95, 2.8, 2.4, 1.8]), 3, 2.5);
    expect(knee.share).toBeGreaterThan(0.75);
    expect(knee.share).toBeLessThan(1);
    expect(knee.bendShare).toBeCloseTo(knee.share - 0.75, 9);
  });
  it('where the voltage does not fall it is the end of the interval', () => {
    expect(intervalCrossing(totalsOf([3, 2.4, 2.4, 2.3]), 2, 2.4)).toEqual({
      share: 1,
      bendShare: 0,
    });
  });
});

describe('current that is none', () => {
  /** So many rows at rest and as many under load, with what the meter shows beside the truth. */
  const log = (offsetA: number, noiseA: number, loadA: number) => {
    const random = seededRandom(8);
    return Float64Array.from(
      { length: 400 },
      (_, i) => offsetA + noiseA * random.normal() + (i < 200 ? 0 : -loadA),
    );
  };
  it('a meter with an offset is idle a little above that offset, not up to the most it might be', () => {
    // 20 mA shown at rest, 1 mA of noise: the most for 104 Ah would be 624 mA, the rule 208 mA.
    expect(currentDeadBandA(log(0.02, 0.001, 20), 104)).toBeCloseTo(0.208, 9);
    // 0.4 A shown: above the rule, and no wider than four spreads of the noise.
    const band = currentDeadBandA(log(0.4, 0.001, 20), 104);
    expect(band).toBeGreaterThan(0.4);
    expect(band).toBeLessThan(0.41);
  });
  it('never more than what an ammeter shows at rest', () => {
    expect(currentDeadBandA(log(0.5, 0.1, 20), 104)).toBeLessThanOrEqual(0.624);
  });
});

describe('a line of cells', () => {
  it.each([
    ['a,b', ',', ['a', 'b']],
    ['a,b,', ',', ['a', 'b', '']],
    [',', ',', ['', '']],
    ['', ',', ['']],
    ['"a,b",c', ',', ['a,b', 'c']],
    ['"say ""so""";2', ';', ['say "so"', '2']],
    ['a"b,c', ',', ['a"b', 'c']],
    ['"open,end', ',', ['open,end']],
  ])('%j parted by %j', (line, delimiter, cells) =>
    expect(splitLine(line, delimiter)).toEqual(cells),
  );
  it('blanks in a row part once, and none at either end', () =>
    expect(splitLine('  0.0   3.31  -2 ', ' ', true)).toEqual(['0.0', '3.31', '-2']));
});
