import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  conditioningChange,
  leakageCurrent,
  lookState,
  monthlyLoss,
  outcomeByVolts,
  outcomeOfLook,
  type RestReading,
  selfDischargeSlope,
  SHIPPED_PROTOCOLS,
  worseOutcome,
} from '../src/resting';
import { seededRandom } from '../src/statistics';

const reading = (
  days: number,
  voltageV: number,
  temperatureC: number | null = 22,
): RestReading => ({
  days,
  voltageV,
  temperatureC,
  limitV: 0.001,
});

/** Chapter 4, "Self-discharge": day 1, day 7, day 14. */
const WORKED = [reading(1, 4.165), reading(7, 4.1584), reading(14, 4.1521)];

describe('slope of a voltage at rest', () => {
  it('is the handbook’s: −0.990 mV a day, u from the meter where that is larger', () => {
    const figure = selfDischargeSlope(WORKED)!;
    expect(figure.value).toBeCloseTo(-0.99, 3);
    const part = (of: typeof figure, kind: string) =>
      of.budget.find((one) => one.kind === kind)?.standardUncertainty;
    expect(part(figure, 'restReading')).toBeCloseTo(0.0627, 3);
    // What relaxation may still do on day 1 is left open beside it.
    expect(part(figure, 'relaxation')).toBeGreaterThan(0.05);
    // A meter ten times as fine: one degree of freedom, u of the scatter times 13.97 / 2.
    const later = WORKED.map((one) => ({ ...one, days: one.days + 10, limitV: 0.0002 }));
    const better = selfDischargeSlope(later)!;
    expect(better.budget.map(({ kind }) => kind)).toEqual(['restScatter']);
    expect(2 * better.standardUncertainty!).toBeCloseTo(13.97 * 0.0573, 1);
  });

  it('whose first reading bends it the way relaxation does goes without that one', () => {
    const relaxing = [reading(1, 4.168), ...WORKED.slice(1)];
    const figure = selfDischargeSlope(relaxing)!;
    expect(figure.value).toBeCloseTo(-0.9, 6);
    expect(figure.inputs).toHaveLength(2);
    expect(figure.steps.join(' ')).toContain('still relaxing');
    // Bent the other way it is kept: no relaxation raises a voltage.
    expect(selfDischargeSlope([reading(1, 4.16), ...WORKED.slice(1)])!.inputs).toHaveLength(3);
  });

  it('with relaxation going on from day 1 still holds the truth', () => {
    const random = seededRandom(12);
    for (const days of [
      [1, 7, 14],
      [1, 3, 7, 10, 14],
    ]) {
      let held = 0;
      for (let cell = 0; cell < 1000; cell++) {
        const truth = -0.2 - 2 * random.uniform();
        const relaxingMv = 3 * random.uniform();
        const figure = selfDischargeSlope(
          days.map((day) => {
            const relaxed = (relaxingMv / 1000) * Math.exp(-(day - 1) / 1.2);
            const off = (random.uniform() - 0.5) * 0.002;
            return reading(day, 4.17 + (truth * day) / 1000 + relaxed + off);
          }),
        )!;
        held += Number(Math.abs(figure.value - truth) <= 2 * figure.standardUncertainty!);
      }
      expect(held / 1000).toBeGreaterThan(0.93);
    }
  });

  it('of two readings: −6.6 mV in 6 days is −1.10 ± 0.27 mV a day', () => {
    const later = WORKED.slice(0, 2).map((one) => ({ ...one, days: one.days + 1 }));
    const figure = selfDischargeSlope(later)!;
    expect(figure.value).toBeCloseTo(-1.1, 6);
    expect(2 * figure.standardUncertainty!).toBeCloseTo(0.272, 3);
    // From day 1 on relaxation may be worth 0.3 mV a day of it.
    const early = selfDischargeSlope(WORKED.slice(0, 2))!;
    expect(2 * early.standardUncertainty!).toBeCloseTo(
      2 * Math.hypot(0.136, 0.3 / Math.sqrt(3)),
      2,
    );
  });

  it('leaves the first day out, and says nothing of fewer than two readings', () => {
    const early = selfDischargeSlope([reading(0.04, 4.19), ...WORKED])!;
    expect(early.value).toBeCloseTo(-0.99, 3);
    expect(early.inputs).toHaveLength(3);
    expect(selfDischargeSlope([reading(0.04, 4.19), reading(7, 4.16)])).toBeNull();
    expect(selfDischargeSlope([reading(7, 4.16), reading(7, 4.16)])).toBeNull();
  });

  it('adds unequal temperatures, and warns beyond 8 K', () => {
    const apart = (kelvin: number) =>
      selfDischargeSlope([reading(1, 4.165, 20), reading(7, 4.1584, 20 + kelvin)])!;
    const plain = apart(0).standardUncertainty!;
    const u = apart(5).standardUncertainty!;
    expect(u ** 2 - plain ** 2).toBeCloseTo(((0.3 * 5) / Math.sqrt(3) / 6) ** 2, 9);
    expect(apart(8).findings).toEqual([]);
    expect(apart(9).findings.map(({ code }) => code)).toEqual(['rest-temperatures-apart']);
    const unread = selfDischargeSlope([reading(1, 4.165, null), reading(7, 4.1584)])!;
    expect(unread.findings.map(({ code }) => code)).toEqual(['rest-temperature-unknown']);
  });

  it('that rises is told: nothing charges by standing', () => {
    const rising = selfDischargeSlope([reading(1, 4.1), reading(7, 4.15)])!;
    expect(rising.findings.map(({ code }) => code)).toContain('rest-voltage-rose');
  });

  it('holds the truth within U in at least 95 % of cells', () => {
    const random = seededRandom(41);
    let held = 0;
    for (let cell = 0; cell < 2000; cell++) {
      const truth = -0.2 - 2 * random.uniform();
      const figure = selfDischargeSlope(
        [1, 5, 9, 14].map((day) =>
          // A meter’s reading is anywhere within its limits.
          reading(day, 4.17 + (truth * day) / 1000 + (random.uniform() - 0.5) * 0.002),
        ),
      )!;
      held += Number(Math.abs(figure.value - truth) <= 2 * figure.standardUncertainty!);
    }
    expect(held / 2000).toBeGreaterThan(0.95);
  });

  it('is the same whatever is added to all voltages or days, and in whatever order it comes', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -0.05, max: 0.05, noNaN: true }),
        fc.double({ min: 0, max: 20, noNaN: true }),
        fc.shuffledSubarray([0, 1, 2], { minLength: 3 }),
        (volts, days, order) => {
          const late = WORKED.map((one) => ({ ...one, days: one.days + 2 }));
          const moved = order.map((i) => {
            const one = late[i]!;
            return { ...one, voltageV: one.voltageV + volts, days: one.days + days };
          });
          const [a, b] = [selfDischargeSlope(late)!, selfDischargeSlope(moved)!];
          expect(b.value).toBeCloseTo(a.value, 6);
          expect(b.standardUncertainty!).toBeCloseTo(a.standardUncertainty!, 6);
        },
      ),
    );
  });
});

describe('loss of charge from a slope', () => {
  const slope = selfDischargeSlope(WORKED.map((one) => ({ ...one, days: one.days + 2 })))!;

  it('is slope × 30 days × dSoC/dV, with both uncertainties', () => {
    const loss = monthlyLoss(slope, { perVolt: 1.2, standardUncertainty: 0.1 });
    expect(loss.figure!.value).toBeCloseTo(0.98976 * 0.001 * 30 * 1.2 * 100, 3);
    const relative = Math.hypot(0.0627 / 0.98976, 0.1 / 1.2);
    expect(loss.figure!.standardUncertainty! / loss.figure!.value).toBeCloseTo(relative, 3);
    expect(loss.figure!.budget[0]!.kind).toBe('chargeCurve');
  });

  it('is refused in words where the curve is too flat to tell', () => {
    const flat = monthlyLoss(slope, { perVolt: 10, standardUncertainty: 6 });
    expect(flat.figure).toBeNull();
    expect(flat.refused).toMatch(/too flat/);
  });

  it('as a current is Q·dSoC/dt', () => {
    const { figure } = leakageCurrent(slope, { perVolt: 1.2, standardUncertainty: 0.1 }, 3.4);
    // 0.98976 mV a day × 1.2 / V × 3.4 Ah over 24 h.
    expect(figure!.value).toBeCloseTo((0.98976e-3 * 1.2 * 3.4 * 1e6) / 24, 2);
    expect(figure!.unit).toBe('µA');
  });
});

describe('protocols', () => {
  const [careful, twoLook, byLot, retention] = SHIPPED_PROTOCOLS as [
    (typeof SHIPPED_PROTOCOLS)[number],
    (typeof SHIPPED_PROTOCOLS)[number],
    (typeof SHIPPED_PROTOCOLS)[number],
    (typeof SHIPPED_PROTOCOLS)[number],
  ];

  it.each([
    ['careful', 0, 4.1, 'keep'],
    ['careful', 0, 4.0999, 'fastLoss'],
    ['careful', 0, 4.0, 'fastLoss'],
    ['careful', 0, 3.999, 'reject'],
    ['two-look', 0, 4.05, 'keep'],
    ['two-look', 0, 4.049, 'secondLook'],
    ['two-look', 1, 4.0, 'nonCritical'],
    ['two-look', 1, 3.99, 'reject'],
  ] as const)('%s, look %d: at %d V %s', (name, look, voltageV, outcome) => {
    const protocol = SHIPPED_PROTOCOLS.find((one) => one.name === name)!;
    expect(outcomeByVolts(protocol.looks[look]!, voltageV)).toBe(outcome);
  });

  it('a look is early before its day, due within its tolerance, late after', () => {
    const look = careful.looks[0]!;
    expect([6.99, 7, 8, 8.01].map((days) => lookState(look, days))).toEqual([
      'early',
      'due',
      'due',
      'late',
    ]);
  });

  it('where volts and the lot both speak the worse counts; where neither does, nothing', () => {
    const look = careful.looks[0]!;
    const said = (isFastLoser: boolean | null, voltageV: number) =>
      outcomeOfLook(careful, look, { voltageV, isFastLoser, retention: null });
    expect(said(null, 4.12)).toBe('keep');
    expect(said(true, 4.12)).toBe('fastLoss');
    expect(said(false, 3.9)).toBe('reject');
    const nothing = { voltageV: 3.33, isFastLoser: null, retention: null };
    expect(outcomeOfLook(byLot, byLot.looks[0]!, nothing)).toBeNull();
    expect(worseOutcome('reject', 'keep')).toBe('reject');
  });

  it('below 96 % kept over 28 days is a fast loss', () => {
    const kept = (value: number) =>
      outcomeOfLook(retention, retention.looks[0]!, {
        voltageV: 3.33,
        isFastLoser: null,
        retention: { value, standardUncertainty: 0.003 },
      });
    expect([kept(0.97), kept(0.955)]).toEqual(['keep', 'fastLoss']);
    expect(twoLook.leastRetention).toBeNull();
  });
});

describe('conditioning', () => {
  const test = (value: number, channelId: number | null, u = 0.02) => ({
    estimate: { value, standardUncertainty: u, bound: 'exact' as const },
    channelId,
    scattersAh: value * 0.0025,
  });

  it('is the handbook’s: 3.402 to 3.487 Ah is +0.085 ± 0.024 Ah, improved', () => {
    const change = conditioningChange(test(3.402, 1), test(3.487, 1))!;
    expect(change.changeAh).toBeCloseTo(0.085, 6);
    expect(2 * change.standardUncertainty).toBeCloseTo(0.0244, 3);
    expect(change.result).toBe('improved');
  });

  it('on two channels both count whole, and the same change says nothing', () => {
    const change = conditioningChange(test(3.402, 1, 0.04), test(3.487, 2, 0.04))!;
    expect(change.standardUncertainty).toBeCloseTo(0.04 * Math.SQRT2, 9);
    expect(change.result).toBe('unchanged');
    expect(conditioningChange(test(3.402, null, 0.04), test(3.487, null, 0.04))!.result).toBe(
      'unchanged',
    );
  });

  it('a loss beyond its uncertainty is worse; a bound and an unknown uncertainty tell nothing', () => {
    expect(conditioningChange(test(3.5, 1), test(3.4, 1))!.result).toBe('worse');
    const bound = {
      ...test(3.4, 1),
      estimate: { value: 3.4, standardUncertainty: 0.02, bound: 'atLeast' as const },
    };
    expect(conditioningChange(test(3.5, 1), bound)).toBeNull();
    expect(conditioningChange({ ...test(3.5, 1), scattersAh: null }, test(3.4, 1))).toBeNull();
  });
});
