import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  type Accuracy,
  capacityToCutoff,
  chargeBetween,
  cutSections,
  figuresOfLog,
  mainDischarge,
  readLog,
  type Trace,
} from '../src/evidence';
import { recordDischarge, rowsAsCsv, typicalCell } from '../src/simulator';
import { budgetPart, combineBudget } from '../src/units';
import { traceOf } from '../testing/trace-of';

const EXACT: Accuracy = {
  currentGainPct: 0.5,
  currentOffsetA: 0.02,
  voltageGainPct: 0,
  voltageOffsetV: 0.01,
  timePpm: 0,
  source: 'test',
};

/** Linear fall from 3.4 V by 0.2 mV/s at a current, after a rest of three rows. */
const ramp = (amps: number, rows: number, stepS = 10, startS = 0) =>
  traceOf(
    Array.from({ length: rows + 3 }, (_, k) => ({
      t: startS + k * stepS,
      v: k < 3 ? 3.5 : 3.4 - 0.0002 * stepS * (k - 3),
      i: k < 3 ? 0 : -amps,
    })),
  );
const capacity = (trace: Trace, cutoffV: number) =>
  capacityToCutoff(trace, mainDischarge(cutSections(trace))!, { cutoffV, accuracy: EXACT });

describe('capacity', () => {
  it('worked budget of the handbook: 20 A for 5.2 h', () => {
    const { standardUncertainty } = combineBudget([
      budgetPart('currentGain', (0.005 * 104) / Math.sqrt(3), ''),
      budgetPart('currentOffset', (0.02 * 5.2) / Math.sqrt(3), ''),
      budgetPart('cutoffVoltage', (0.01 / Math.sqrt(3)) * 4, ''),
      budgetPart('repeatability', 0.0015 * 104, ''),
    ]);
    expect(standardUncertainty).toBeCloseTo(0.3444, 4);
    expect(2 * standardUncertainty).toBeCloseTo(0.69, 2);
  });
  it('the same parts come out of a trace with that current, length and slope', () => {
    // 20 A = 5.556 mAh/s; a fall of 1.3889 mV/s makes |dQ/dV| = 4.0 Ah/V.
    const rows = Array.from({ length: 1900 }, (_, k) => ({
      t: 10 * k,
      v: k < 3 ? 3.5 : k > 1800 ? 3.3 - 0.013888889 * (k - 1800) : 3.3,
      i: k < 3 ? 0 : -20,
    }));
    const { capacity: figure } = capacity(traceOf(rows), 3.3 - 0.013888889 * 75);
    // From half an interval before the first loaded row on.
    expect(figure.value).toBeCloseTo((20 * (10 * 1875 - 30 + 5)) / 3600, 6);
    const part = (name: string) =>
      figure.budget.find((component) => component.name === name)!.standardUncertainty;
    expect(part('current gain')).toBeCloseTo((0.3002 * figure.value) / 104, 3);
    expect(part('current offset')).toBeCloseTo((0.06 * figure.value) / 104, 3);
    expect(part('cut-off voltage')).toBeCloseTo(0.0231, 4);
  });
  it('at a steady current the time of the end and the charge are the same thing', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.5, max: 40, noNaN: true }),
        fc.integer({ min: 2, max: 60 }),
        fc.double({ min: 3.2, max: 3.35, noNaN: true }),
        (amps, stepS, cutoffV) => {
          const rows = Math.ceil(0.25 / (0.0002 * stepS));
          const { capacity: figure } = capacity(ramp(amps, rows, stepS), cutoffV);
          const { fromS, toS } = figure.span!;
          // The load came on somewhere in the interval before its first row: in the middle of it.
          expect((amps * (toS - fromS + stepS / 2)) / 3600).toBeCloseTo(figure.value, 6);
        },
      ),
      { numRuns: 60 },
    );
  });
  it('leads that are only known so well move the voltage of the end by the current through them', () => {
    // |dQ/dV| of a fall of 0.2 mV/s at 3.6 A is 5 Ah/V; 2 mΩ at 3.6 A are 7.2 mV.
    const trace = ramp(3.6, 101);
    const { capacity: figure } = capacityToCutoff(trace, mainDischarge(cutSections(trace))!, {
      cutoffV: 3.301,
      accuracy: EXACT,
      leadMohm: 10,
      leadUncertaintyMohm: 4,
    });
    const part = figure.budget.find(({ kind }) => kind === 'leadResistance')!;
    const [, kept] = /^([\d.]+) mΩ of/.exec(part.basis)!;
    expect(part.standardUncertainty).toBeCloseTo((Number(kept) / 1000) * 3.6 * 5, 4);
  });
  it('interpolates inside the interval and is a lower bound below the lowest voltage', () => {
    const trace = ramp(3.6, 101);
    expect(capacity(trace, 3.301).capacity).toMatchObject({
      bound: 'exact',
      // 495 s under load, and half of the 10 s before the first loaded row.
      value: expect.closeTo(0.5, 9),
    });
    const open = capacity(trace, 2.9).capacity;
    expect(open.bound).toBe('atLeast');
    expect(open.findings[0]!.code).toBe('ended-above-cut-off');
  });
  it('mean voltage is energy over charge', () => {
    const { capacity: q, energy, meanVoltage } = capacity(ramp(2, 101), 3.3);
    expect(meanVoltage.value).toBeCloseTo(energy.value / q.value, 12);
    expect(meanVoltage.value).toBeCloseTo(3.35, 3);
  });
});

describe('laws', () => {
  const amps = fc.double({ min: 0.2, max: 50, noNaN: true });
  it('charge adds over a split trace', () => {
    fc.assert(
      fc.property(
        amps,
        fc.integer({ min: 10, max: 200 }),
        fc.double({ min: 0.1, max: 0.9, noNaN: true }),
        (a, rows, share) => {
          const trace = ramp(a, rows);
          const at = 3 + Math.floor(share * (rows - 1));
          const last = trace.timeS.length - 1;
          expect(chargeBetween(trace, 3, at) + chargeBetween(trace, at, last)).toBeCloseTo(
            chargeBetween(trace, 3, last),
            9,
          );
        },
      ),
    );
  });
  it('scaling the current scales the capacity; energy too', () => {
    fc.assert(
      fc.property(amps, fc.double({ min: 0.1, max: 10, noNaN: true }), (a, factor) => {
        const one = capacity(ramp(a, 100), 3.3);
        const other = capacity(ramp(a * factor, 100), 3.3);
        expect(other.capacity.value / one.capacity.value).toBeCloseTo(factor, 9);
        expect(other.energy.value / one.energy.value).toBeCloseTo(factor, 9);
      }),
    );
  });
  it('a shift of the clock changes nothing', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 1_000_000 }), (shift) => {
        const write = (startS: number) =>
          readLog(
            new TextEncoder().encode(
              [
                'time_s,voltage_V,current_A',
                ...Array.from(
                  { length: 60 },
                  (_, k) =>
                    `${startS + 10 * k},${(k < 3 ? 3.5 : 3.4 - 0.002 * k).toFixed(3)},${k < 3 ? 0 : -2}`,
                ),
              ].join('\n'),
            ),
          );
        const options = { cutoffsV: [3.35], accuracy: EXACT };
        expect(figuresOfLog(write(shift), options).capacities).toEqual(
          figuresOfLog(write(0), options).capacities,
        );
      }),
      { numRuns: 30 },
    );
  });
  it('a higher cut-off never gives more', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 3.21, max: 3.39, noNaN: true }),
        fc.double({ min: 0, max: 0.1, noNaN: true }),
        (cutoffV, more) => {
          const trace = ramp(2, 100);
          expect(capacity(trace, cutoffV + more).capacity.value).toBeLessThanOrEqual(
            capacity(trace, cutoffV).capacity.value + 1e-12,
          );
        },
      ),
    );
  });
});

describe('simulated cells through the reader', () => {
  it('capacity follows the cell, the bias of the channel and its leads', () => {
    const run = (channel: object) => {
      const rows = recordDischarge(typicalCell('LFP', 6), {
        currentA: 1.2,
        cutoffV: 2.5,
        intervalS: 10,
        restBeforeS: 60,
        restAfterS: 60,
        ambientC: 23,
        seed: 5,
        channel,
      });
      return figuresOfLog(readLog(new TextEncoder().encode(rowsAsCsv(rows))), {
        cutoffsV: [2.5],
        accuracy: null,
      }).capacities![0]!.capacity;
    };
    const sound = run({});
    expect(sound.bound).toBe('exact');
    expect(sound.value).toBeGreaterThan(5.9);
    expect(sound.value).toBeLessThan(6);
    expect(run({ currentGainPct: 3.5 }).value / sound.value).toBeCloseTo(1.035, 3);
    expect(run({ leadMohm: 60 }).value).toBeLessThan(sound.value);
  });
  it('the same seed gives the same log', () => {
    const plan = {
      currentA: 2,
      cutoffV: 2.8,
      intervalS: 30,
      restBeforeS: 60,
      restAfterS: 0,
      ambientC: 20,
      seed: 9,
    };
    expect(rowsAsCsv(recordDischarge(typicalCell('NMC', 4), plan))).toBe(
      rowsAsCsv(recordDischarge(typicalCell('NMC', 4), plan)),
    );
  });
});

describe('efficiency', () => {
  /** A log of a charge and a discharge at one current, each of so many rows of a minute. */
  const both = (chargeRows: number, dischargeRows: number) => {
    const lines = ['time_s,voltage_V,current_A'];
    let t = 0;
    const add = (rows: number, v: (i: number) => number, a: number) => {
      for (let i = 0; i < rows; i++) lines.push(`${60 * t++},${v(i).toFixed(4)},${a}`);
    };
    add(chargeRows, (i) => 3.3 + 0.0005 * i, 10);
    add(90, () => 3.35, 0);
    add(dischargeRows, (i) => 3.25 - 0.002 * i, -10);
    const log = readLog(new TextEncoder().encode(lines.join('\n')));
    return figuresOfLog(log, { cutoffsV: [2.5], accuracy: null, ratedAh: 50 }).efficiency;
  };
  it('is what came out over what went in', () => {
    const found = both(300, 297)!;
    expect(found.charge).toBe('before');
    expect(found.coulombic).toBeCloseTo(296 / 299, 6);
    expect(found.energy).toBeLessThan(found.coulombic);
    const meanIn = 3.3 + (0.0005 * 299) / 2;
    const meanOut = 3.25 - (0.002 * 296) / 2;
    expect(found.energy).toBeCloseTo(((296 / 299) * meanOut) / meanIn, 4);
  });
  it('is not said where the two do not belong together', () => {
    expect(both(200, 297)).toBeNull();
    expect(both(300, 150)).toBeNull();
    const sample = readLog(
      new Uint8Array(
        readFileSync(
          join(import.meta.dirname, '../fixtures/samples/09-charge-rest-discharge-recharge.csv'),
        ),
      ),
    );
    expect(
      figuresOfLog(sample, { cutoffsV: [2.5], accuracy: null, ratedAh: 6 }).efficiency,
    ).toBeNull();
  });
});
