import { describe, expect, it } from 'vitest';
import {
  type CurveShape,
  cutSections,
  earlyRises,
  incrementalCapacity,
  mainDischarge,
  medianBand,
  oddCurves,
  readLog,
  savitzkyGolay,
  shapeOf,
  TAIL_SHARES,
} from '../src/evidence';
import { recordCharge, recordDischarge, rowsAsCsv, typicalCell } from '../src/simulator';
import { seededRandom } from '../src/statistics';

const random = seededRandom(12);
const none: CurveShape = {
  chargeTailV: null,
  knee: null,
  endSlopeVPerAh: null,
  relaxationV: { after1min: null, after10min: null, after1h: null },
};
const tail = (above: number) =>
  TAIL_SHARES.map((share) => 3.4 + 0.1 * (0.4 - share) + above + 0.0004 * random.normal());

/** A log of rest, discharge and rest again of one simulated cell. */
const discharged = (capacityAh: number, seed: number, r0 = 1) => {
  const usual = typicalCell('LFP', 100);
  const rows = recordDischarge(
    { ...usual, capacityAh, r0Mohm: usual.r0Mohm * r0 },
    {
      currentA: 20,
      cutoffV: 2.5,
      intervalS: 20,
      restBeforeS: 1200,
      restAfterS: 3700,
      ambientC: 25,
      seed,
    },
  );
  const { trace } = readLog(new TextEncoder().encode(rowsAsCsv(rows)));
  const sections = cutSections(trace, 100);
  return { trace, sections, discharge: mainDischarge(sections) };
};

describe('early rise on charge', () => {
  it('names the cell that rises above the others, and nobody else', () => {
    const shapes = new Map<string, CurveShape>();
    for (let i = 0; i < 20; i++)
      shapes.set(`c${i}`, {
        ...none,
        chargeTailV: tail(i === 7 ? 0.03 : 0.0008 * random.normal()),
      });
    const odd = oddCurves(shapes);
    expect(odd.map(({ cell, kind }) => `${cell} ${kind}`)).toEqual(['c7 risesEarly']);
    expect(odd[0]!.z).toBeGreaterThan(3.5);
    expect(odd[0]!.advice).toContain('Condition it two or three cycles');
  });

  it('is the mean height above the median over the stretch', () => {
    const flat = (v: number) => TAIL_SHARES.map(() => v);
    const rises = earlyRises(
      new Map([
        ['a', flat(3.4)],
        ['b', flat(3.41)],
        ['c', flat(3.43)],
      ]),
    );
    expect(rises.get('a')).toBeCloseTo(-0.01, 12);
    expect(rises.get('b')).toBeCloseTo(0, 12);
    expect(rises.get('c')).toBeCloseTo(0.02, 12);
  });

  it('is read by charge before full, only from a charge that tapered', () => {
    const n = 400;
    const charge = (taper: boolean) => {
      const lines = ['time_s,voltage_V,current_A'];
      for (let i = 0; i < n; i++) {
        const current = taper && i > 300 ? 20 * Math.exp(-(i - 300) / 25) : 20;
        lines.push(`${i * 30},${(3.2 + 0.0009 * i).toFixed(4)},${current.toFixed(3)}`);
      }
      const log = readLog(new TextEncoder().encode(lines.join('\n')));
      return shapeOf(log.trace, cutSections(log.trace), null, 60).chargeTailV;
    };
    expect(charge(false)).toBeNull();
    const read = charge(true)!;
    expect(read).toHaveLength(36);
    for (let i = 1; i < read.length; i++) expect(read[i]!).toBeGreaterThanOrEqual(read[i - 1]!);
  });

  it('few cells, or all alike, name nobody', () => {
    expect(oddCurves(new Map([['a', { ...none, chargeTailV: tail(0.1) }]]))).toEqual([]);
    expect(oddCurves(new Map())).toEqual([]);
  });
});

describe('shape of a discharge', () => {
  it('has its knee before the end, a falling end and a recovery that goes on', () => {
    const { trace, sections, discharge } = discharged(100, 1);
    const shape = shapeOf(trace, sections, discharge, 100);
    expect(shape.knee!.ah).toBeGreaterThan(70);
    expect(shape.knee!.ah).toBeLessThan(99);
    expect(shape.endSlopeVPerAh!).toBeLessThan(0);
    const { after1min, after10min, after1h } = shape.relaxationV;
    expect(after10min!).toBeGreaterThan(after1min!);
    expect(after1h!).toBeGreaterThanOrEqual(after10min!);
    expect(shape.chargeTailV).toBeNull();
  });

  it('a short cell bends early among its lot', () => {
    const shapes = new Map<string, CurveShape>();
    for (let i = 0; i < 9; i++) {
      const { trace, sections, discharge } = discharged(i === 4 ? 88 : 100 + 0.2 * i, 20 + i);
      shapes.set(`c${i}`, shapeOf(trace, sections, discharge, 100));
    }
    const odd = oddCurves(shapes);
    expect(odd.some(({ cell, kind }) => cell === 'c4' && kind === 'earlyKnee')).toBe(true);
    expect(odd.filter(({ cell }) => cell !== 'c4')).toEqual([]);
  });
});

describe('median band', () => {
  it('is the median at each charge, and one odd curve does not move it', () => {
    const ah = Array.from({ length: 50 }, (_, i) => i * 2);
    const curve = (offset: number) => ({ ah, voltageV: ah.map((q) => 3.4 - 0.005 * q + offset) });
    const band = medianBand([curve(0), curve(0.001), curve(-0.001), curve(0.002), curve(0.8)]);
    band.x.forEach((x, i) => {
      expect(band.median[i]).toBeCloseTo(3.4 - 0.005 * x + 0.001, 9);
      expect(band.spread[i]!).toBeLessThan(0.003);
      expect(band.count[i]).toBe(5);
    });
    expect(medianBand([]).x).toEqual([]);
  });
});

describe('incremental capacity', () => {
  it('smoothing weights: a polynomial of the degree goes through unchanged', () => {
    for (const [half, degree] of [
      [2, 2],
      [5, 2],
      [4, 3],
    ] as const) {
      const value = savitzkyGolay(half, degree, 0);
      const slope = savitzkyGolay(half, degree, 1);
      const series = (x: number) => 2 + 3 * x - 0.5 * x * x + (degree > 2 ? 0.1 * x ** 3 : 0);
      const at = (weights: number[]) =>
        weights.reduce((sum, w, i) => sum + w * series(i - half), 0);
      expect(at(value)).toBeCloseTo(2, 9);
      expect(at(slope)).toBeCloseTo(3, 9);
    }
    // The classic five-point quadratic: (−3, 12, 17, 12, −3) / 35.
    expect(savitzkyGolay(2, 2, 0).map((w) => w * 35)).toEqual(
      [-3, 12, 17, 12, -3].map((w) => expect.closeTo(w, 9)),
    );
  });

  it('finds the plateaus a curve was made of, and their charge adds up', () => {
    // Two plateaus: 40 Ah near 3.30 V and 60 Ah near 3.20 V.
    const volts: number[] = [];
    const ah: number[] = [];
    const normal = (x: number, centre: number) => 1 / (1 + Math.exp((x - centre) / 0.006));
    for (let v = 3.45; v > 3.05; v -= 0.0004) {
      volts.push(v + 0.0003 * random.normal());
      ah.push(40 * normal(v, 3.3) + 60 * normal(v, 3.2));
    }
    const found = incrementalCapacity(ah, volts)!;
    expect(found.peaks).toHaveLength(2);
    expect(found.peaks[0]!.voltageV).toBeCloseTo(3.3, 1);
    expect(found.peaks[1]!.voltageV).toBeCloseTo(3.2, 1);
    const sum = found.ahPerV.reduce((a, b) => a + b, 0) * 0.005;
    expect(sum).toBeGreaterThan(93);
    expect(sum).toBeLessThan(103);
    expect(found.voltageV[0]!).toBeGreaterThan(found.voltageV.at(-1)!);
  });

  it('says nothing of a curve that spans too little', () => {
    expect(incrementalCapacity([0, 1, 2], [3.3, 3.29, 3.28])).toBeNull();
    const flat = Array.from({ length: 100 }, () => 3.3);
    expect(
      incrementalCapacity(
        flat.map((_, i) => i),
        flat,
      ),
    ).toBeNull();
  });
});

describe('first charges of simulated cells', () => {
  it('the ones that never cycled rise early, and no more after cycling', () => {
    const shapes = new Map<string, CurveShape>();
    for (let i = 0; i < 15; i++) {
      const rows = recordCharge(
        { ...typicalCell('sodium-ion', 3.5), capacityAh: 3.5 + 0.01 * i },
        {
          currentA: 0.7,
          chargeV: 3.9,
          taperA: 0.17,
          intervalS: 30,
          restBeforeS: 600,
          ambientC: 24,
          seed: 40 + i,
          from: 0.02,
          risesEarlyV: i === 6 ? 0.06 : 0,
        },
      );
      const { trace } = readLog(new TextEncoder().encode(rowsAsCsv(rows)));
      const sections = cutSections(trace, 3.5);
      const shape = shapeOf(trace, sections, mainDischarge(sections), 3.5);
      expect(shape.chargeTailV).toHaveLength(36);
      shapes.set(`c${i}`, shape);
    }
    expect(oddCurves(shapes).map(({ cell, kind }) => `${cell} ${kind}`)).toEqual(['c6 risesEarly']);
  });
});
