import { describe, expect, it } from 'vitest';
import { handForecast, type HandPoint, handResult, type PointField } from '../src/evidence';
import { median, seededRandom } from '../src/statistics';
import { interpolate, LOT, point, SETTING, trueCurve } from '../testing/hand-points';

describe('when to be there', () => {
  const curve = trueCurve(103.4, 77);
  const truth = interpolate(
    Array.from(curve.voltageV).map((v) => -v),
    curve.chargeAh,
    -2.5,
  );
  const at = (ah: number) =>
    point(ah / 20.8, {
      shownAh: Number(ah.toFixed(1)),
      shownA: 20.8,
      cellV: Number(interpolate(curve.chargeAh, curve.voltageV, ah).toFixed(3)),
    });

  it('the range holds the true end all the way, and narrows near the knee', () => {
    const widths = [10, 40, 70, 90, 97, 99].map((ah) => {
      const { endS, beThereS } = handForecast([at(ah)], SETTING, { setA: null, curves: LOT })!;
      const end = (truth / 20.8) * 3600;
      expect(end).toBeGreaterThan(endS.low - 120);
      expect(end).toBeLessThan(endS.high + 120);
      expect(beThereS).toBeLessThanOrEqual(Math.max(endS.low, (ah / 20.8) * 3600));
      return endS.high - endS.low;
    });
    expect(widths[5]!).toBeLessThan(widths[0]! / 3);
  });

  it('the next point comes ever sooner, never within five minutes, and the first after five', () => {
    const next = (ah: number) => {
      const { nextS } = handForecast([at(ah)], SETTING, { setA: null, curves: LOT })!;
      return nextS - (ah / 20.8) * 3600;
    };
    expect(next(10)).toBeGreaterThan(next(60));
    expect(next(60)).toBeGreaterThan(next(95));
    expect(next(100)).toBeGreaterThanOrEqual(300);
    expect(handForecast([], SETTING, { setA: 20.8, curves: LOT })!.nextS).toBe(300);
  });

  it('without curves it goes by what is expected; without a current it says nothing', () => {
    const bare = handForecast([at(52)], SETTING, { setA: null, curves: [] })!;
    expect(bare).toMatchObject({ by: 'expected', curves: 0 });
    expect(bare.endS.middle / 3600).toBeCloseTo(5, 1);
    expect(handForecast([], SETTING, { setA: null, curves: [] })).toBeNull();
  });
});

describe('against the whole trace', () => {
  /** A hand log of 6 to 10 points of one simulated discharge, as people take them. */
  function simulated(seed: number) {
    const random = seededRandom(seed);
    const curve = trueCurve(98 + 12 * random.uniform(), 1000 + seed);
    const falling = Array.from(curve.voltageV).map((v) => -v);
    const gain = 1 + 0.005 * (2 * random.uniform() - 1);
    const meter = 1 + 0.0005 * (2 * random.uniform() - 1);
    const ohm = 0.001 + 0.006 * random.uniform();
    const setCutoffV = Number((2.5 - ohm * 20.8 - 0.05 * random.uniform()).toFixed(2));
    const stopAh = interpolate(falling, curve.chargeAh, -(setCutoffV + ohm * 20.8));
    const read = (ah: number): HandPoint => {
      const v = interpolate(curve.chargeAh, curve.voltageV, ah);
      const values: Partial<Record<PointField, number>> = {
        shownV: Number((v - ohm * 20.8).toFixed(2)),
        shownA: Number((20.8 * gain).toFixed(1)),
        shownAh: Number((ah * gain).toFixed(1)),
        cellV: Number((v * meter).toFixed(3)),
      };
      return {
        atS: (ah / 20.8) * 3600,
        values,
        decimals: { shownV: 2, shownA: 1, shownAh: 1, cellV: 3 },
        isStop: false,
      };
    };
    const count = 6 + Math.floor(5 * random.uniform());
    const asked = Array.from({ length: count - 1 }, (_, i) =>
      i < count / 2 ? 2 + 80 * random.uniform() : stopAh - 10 * random.uniform() ** 2,
    ).sort((a, b) => a - b);
    const stop: HandPoint = {
      atS: (stopAh / 20.8) * 3600,
      values: { shownAh: Number((stopAh * gain).toFixed(1)) },
      decimals: { shownAh: 1 },
      isStop: true,
    };
    return {
      points: [...asked.map(read), stop],
      setting: { ...SETTING, setCutoffV },
      truth: interpolate(falling, curve.chargeAh, -2.5),
    };
  }

  it('the limits hold the truth in at least 95 % of 500 runs, with and without the lot’s shape', () => {
    for (const curves of [LOT, []]) {
      const widths: number[] = [];
      let held = 0;
      for (let seed = 1; seed <= 500; seed++) {
        const { points, setting, truth } = simulated(seed);
        const { figure } = handResult(points, setting, curves);
        const U = 2 * figure!.standardUncertainty!;
        widths.push(2 * U);
        const holds =
          figure!.bound === 'exact'
            ? Math.abs(figure!.value - truth) <= U
            : figure!.value - U <= truth;
        if (holds) held++;
      }
      expect(held / 500).toBeGreaterThanOrEqual(0.95);
      // Not by being wide: the gain of the display alone makes 1.2 Ah.
      expect(median(widths)).toBeLessThan(1.4);
    }
  });
});
