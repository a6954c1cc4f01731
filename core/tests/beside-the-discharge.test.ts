import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { checkCounter } from '../src/evidence/counter-check';
import { efficiencyOf } from '../src/evidence/efficiency';
import { currentLevels } from '../src/evidence/levels';
import { cutSections, type Discharge, mainDischarge, type Section } from '../src/evidence/sections';
import type { Accuracy } from '../src/evidence/accuracy';
import { leadOf } from '../src/evidence/resistance';
import { temperatureSummary } from '../src/evidence/temperature';
import type { Trace } from '../src/evidence/trace';
import { seededRandom } from '../src/statistics';
import { chargeAtVoltage, leftFromVoltage, wholeCharge } from '../src/units';
import { traceOf } from '../testing/trace-of';

/** An hour of something is 60 rows, one a minute, with a row of rest on both sides. */
function hours(...parts: { i: number; v: number; minutes: number }[]) {
  const rows = [{ t: 0, v: 3.3, i: 0 }];
  const add = (v: number, i: number) => rows.push({ t: 60 * rows.length, v, i });
  for (const { i, v, minutes } of parts) {
    for (let n = 0; n < minutes; n++) add(v, i);
    for (let n = 0; n < 20; n++) add(3.3, 0);
  }
  return traceOf(rows);
}
const ACCURACY: Accuracy = {
  currentGainPct: 0.5,
  currentOffsetA: 0.02,
  voltageGainPct: 0.05,
  voltageOffsetV: 0.005,
  timePpm: 100,
  source: 'test',
};
const KNOWN = { accuracy: ACCURACY, lead: leadOf() };
const judged = (trace: Trace) => {
  const sections = cutSections(trace);
  return efficiencyOf(trace, sections, mainDischarge(sections), KNOWN);
};
const OUT = { i: -10, v: 3.2, minutes: 60 };
const IN = { i: 10, v: 3.4, minutes: 61 };

describe('efficiency and its uncertainty', () => {
  it('takes off what leads took both ways: 10 mΩ at 10 A are 0.1 V each way', () => {
    const seen = hours(
      { ...IN, v: IN.v + 0.1, minutes: 65 },
      { ...OUT, v: OUT.v - 0.1 },
      {
        ...IN,
        v: IN.v + 0.1,
      },
    );
    const sections = cutSections(seen);
    const at = (mohm: number) =>
      efficiencyOf(seen, sections, mainDischarge(sections), {
        accuracy: ACCURACY,
        lead: leadOf(mohm),
      })!;
    const plain = judged(hours({ ...IN, minutes: 65 }, OUT, IN))!;
    expect(at(10).energy).toBeCloseTo(plain.energy, 6);
    expect(at(0).energy).toBeLessThan(plain.energy - 0.05);
    expect(at(10).coulombic).toBe(at(0).coulombic);
    // What is not known of the leads is part of it.
    expect(at(10).energyU).toBeGreaterThan(at(0).energyU);
  });

  it('holds the true one within what is stated: one gain cancels, an offset does not', () => {
    const random = seededRandom(8);
    const off = (half: number) => (half / Math.sqrt(3)) * random.normal();
    const truth = judged(hours({ ...IN, minutes: 65 }, OUT, IN))!;
    let [coulombic, energy] = [0, 0];
    const draws = 300;
    for (let draw = 0; draw < draws; draw++) {
      const gain = 1 + off(0.005);
      const [amps, volts] = [off(0.02), off(0.005)];
      const trace = hours({ ...IN, minutes: 65 }, OUT, IN);
      // Load-on and load-off fall anywhere in their intervals: up to half of one at both ends.
      const edge = () => 1 + (random.uniform() - 0.5) / 60 + (random.uniform() - 0.5) / 60;
      const [outEdge, inEdge] = [edge(), edge()];
      trace.currentA = trace.currentA!.map((a) =>
        a === 0 ? 0 : a * gain * (a < 0 ? outEdge : inEdge) + amps,
      );
      trace.voltageV = trace.voltageV.map((v) => v + volts);
      const { coulombicU, energyU, ...seen } = judged(trace)!;
      if (Math.abs(seen.coulombic - truth.coulombic) <= coulombicU) coulombic++;
      if (Math.abs(seen.energy - truth.energy) <= energyU) energy++;
    }
    for (const inside of [coulombic, energy]) expect(inside / draws).toBeGreaterThan(0.92);
  });
});

describe('what came out over what went in', () => {
  it('is of the charge after the discharge, which makes good what was taken', () => {
    const efficiency = judged(hours({ ...IN, minutes: 65 }, OUT, IN))!;
    expect(efficiency.charge).toBe('after');
    expect(efficiency.coulombic).toBeCloseTo(60 / 61, 2);
    expect(efficiency.energy).toBeCloseTo((60 * 3.2) / (61 * 3.4), 2);
  });

  it('is of the charge before where none follows', () => {
    expect(judged(hours(IN, OUT))!.charge).toBe('before');
  });

  it('a part of a charge belongs to nothing', () => {
    expect(judged(hours(OUT, { ...IN, minutes: 30 }))).toBeNull();
    // More came out than went in: the cell was not empty before.
    expect(judged(hours({ ...IN, minutes: 50 }, OUT))).toBeNull();
    // The one after is a part; the one before is whole.
    expect(judged(hours(IN, OUT, { ...IN, minutes: 30 }))!.charge).toBe('before');
  });

  it('is nothing without a current, a charge or a discharge', () => {
    expect(judged(hours(OUT))).toBeNull();
    expect(judged(hours(IN))).toBeNull();
    const trace = hours(OUT, IN);
    const sections = cutSections(trace);
    expect(
      efficiencyOf({ ...trace, currentA: null }, sections, mainDischarge(sections), KNOWN),
    ).toBeNull();
  });
});

describe('the counter of the instrument beside the integral', () => {
  const rows = Array.from({ length: 101 }, (_, n) => ({ t: 36 * n, v: 3.2, i: -10 }));
  const section = {
    kind: 'discharge',
    fromIndex: 0,
    toIndex: 100,
    fromS: 0,
    toS: 3600,
    ah: 10,
  } as const;
  const discharge = (holes?: Section['holes']): Discharge => ({
    sections: [{ ...section, holes }],
    loadOnS: 0,
    ah: 10,
  });
  /** A counter that begins at one value and counts so much of what flows. */
  const counting = (startAh: number, share: number): Trace => ({
    ...traceOf(rows),
    counterAh: Float64Array.from(rows, (_, n) => startAh + (share * n) / 10),
  });
  const codes = (trace: Trace, ah: number | null, holes?: Section['holes']) =>
    checkCounter(trace, discharge(holes), ah)!.findings.map(({ code }) => code);

  it('is told where it stood before, which is subtracted', () => {
    const check = checkCounter(counting(2.5, 1), discharge(), 10)!;
    expect(check.ah).toBeCloseTo(10, 9);
    expect(check.startAh).toBe(2.5);
    expect(check.findings).toMatchObject([{ code: 'counter-not-zeroed', severity: 'warning' }]);
    expect(check.findings[0]!.text).toContain('2.500 Ah');
    // A counter that runs down from zero counts, too.
    expect(codes(counting(0, -1), 10)).toEqual([]);
  });

  it('is doubted beyond half of a per cent, either way', () => {
    expect(codes(counting(0, 1.004), 10)).toEqual([]);
    expect(codes(counting(0, 0.996), 10)).toEqual([]);
    expect(codes(counting(0, 1.006), 10)).toEqual(['counter-disagrees']);
    expect(codes(counting(0, 0.994), 10)).toEqual(['counter-disagrees']);
    const { findings } = checkCounter(counting(0, 0.9), discharge(), 10)!;
    expect(findings[0]!.text).toContain(
      '9.000 Ah, the integrated current 10.000 Ah: 10.53 % apart',
    );
  });

  it('is not compared over a hole nobody bears witness for, nor without a current', () => {
    expect(codes(counting(0, 2), 10, [{ fromS: 10, toS: 500, ah: null }])).toEqual([]);
    expect(codes(counting(0, 2), 10, [{ fromS: 10, toS: 500, ah: 1 }])).toEqual([
      'counter-disagrees',
    ]);
    expect(codes(counting(0, 2), null)).toEqual([]);
    expect(checkCounter(traceOf(rows), discharge(), 10)).toBeNull();
  });
});

describe('levels of a current', () => {
  const levels = (...amps: number[]) =>
    currentLevels(Float64Array.from(amps), { fromIndex: 0, toIndex: amps.length - 1 });

  it('begin where it steps by a tenth', () => {
    expect(levels(-10, -10.5, -9.5, -20, -21, -10)).toEqual([
      { from: 0, to: 2, amps: 10 },
      { from: 3, to: 4, amps: 20 },
      { from: 5, to: 5, amps: 10 },
    ]);
    expect(levels(5)).toEqual([{ from: 0, to: 0, amps: 5 }]);
  });

  it('cover every row once, in order', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: -30, max: 30, noNaN: true }), { minLength: 1 }),
        (amps) => {
          const rows = levels(...amps).flatMap(({ from, to }) =>
            Array.from({ length: to - from + 1 }, (_, i) => from + i),
          );
          expect(rows).toEqual(amps.map((_, i) => i));
        },
      ),
    );
  });
});

describe('temperature of a part of a log', () => {
  const warm = (...temperatureC: number[]): Trace => ({
    ...traceOf(temperatureC.map((_, n) => ({ t: n, v: 3.2, i: -10 }))),
    temperatureC: Float64Array.from(temperatureC),
  });

  it('is of the readings that are there', () => {
    expect(temperatureSummary(warm(20, NaN, 22, 30, Infinity, 24), 0, 5)).toEqual({
      meanC: 24,
      maxC: 30,
      riseK: 10,
    });
    expect(temperatureSummary(warm(90, 20, 22, 90), 1, 2)).toEqual({
      meanC: 21,
      maxC: 22,
      riseK: 2,
    });
  });

  it('is nothing where nobody measured it', () => {
    expect(temperatureSummary(warm(NaN, NaN), 0, 1)).toBeNull();
    expect(temperatureSummary(traceOf([{ t: 0, v: 3, i: 0 }]), 0, 0)).toBeNull();
  });
});

describe('charge of a whole curve at a voltage', () => {
  const curve = {
    chargeAh: [0, 10, 20, 30],
    voltageV: [3.4, 3.3, 3.2, 2.5],
    standardUncertaintyAh: null,
  };

  it('lies between its rows', () => {
    expect(chargeAtVoltage(curve, 3.25)).toBeCloseTo(15, 9);
    expect(chargeAtVoltage(curve, 3.2)).toBe(20);
    expect(chargeAtVoltage(curve, 2.85)).toBeCloseTo(25, 9);
    expect(leftFromVoltage(curve, 3.25)).toBeCloseTo(15, 9);
    expect(wholeCharge(curve)).toBe(30);
  });

  it('is all of it below the end, none above the beginning', () => {
    expect(chargeAtVoltage(curve, 2)).toBe(30);
    expect(leftFromVoltage(curve, 2)).toBe(0);
    expect(chargeAtVoltage(curve, 3.5)).toBeNull();
    expect(leftFromVoltage(curve, 3.5)).toBeNull();
  });

  it('is where it fell for good: a dip that recovered is passed over', () => {
    const dipped = { chargeAh: [0, 10, 11, 12, 30], voltageV: [3.4, 3.3, 3.1, 3.3, 2.5] };
    expect(chargeAtVoltage(dipped, 3.2)).toBeCloseTo(12 + (18 * 0.1) / 0.8, 9);
  });

  it('is more, the lower the voltage', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 2.5, max: 3.4, noNaN: true }),
        fc.double({ min: 2.5, max: 3.4, noNaN: true }),
        (a, b) => {
          const [low, high] = [Math.min(a, b), Math.max(a, b)];
          expect(chargeAtVoltage(curve, low)!).toBeGreaterThanOrEqual(
            chargeAtVoltage(curve, high)!,
          );
        },
      ),
    );
  });
});
