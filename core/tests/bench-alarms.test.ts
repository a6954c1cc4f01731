import { describe, expect, it } from 'vitest';
import { alarmsOf, programOf, SHIPPED_RECIPES, warmingKPerMin } from '../src/bench';
import { CONDITIONS } from '../testing/bench-conditions';

const claimCheck = SHIPPED_RECIPES[0]!;

describe('alarms', () => {
  const program = programOf(claimCheck.steps, CONDITIONS);
  const limits = { highV: 3.65, lowV: 2, ambientC: 22, intervalS: 10 };
  const readings = (more: object, n = 14) =>
    Array.from({ length: n }, (_, i) => ({
      timeS: i * 10,
      voltageV: 3.4,
      currentA: 52,
      temperatureC: 23,
      ...more,
    }));
  const codes = (step: number, more: object) =>
    alarmsOf(program[step]!, readings(more), limits).map(({ code }) => code);
  it('are silent while all is well', () => {
    expect(codes(0, {})).toEqual([]);
    expect(codes(2, { currentA: -20.8 })).toEqual([]);
    expect(codes(0, { currentA: 12, voltageV: 3.65 })).toEqual([]);
  });
  it('tell heat on charge three ways, each of which blocks the cell', () => {
    expect(alarmsOf(program[0]!, readings({ temperatureC: 46 }), limits)[0]).toMatchObject({
      code: 'heatOnCharge',
      action: 'block',
    });
    expect(codes(0, { temperatureC: 32.5 })).toEqual(['heatOnCharge']);
    const warming = readings({}).map((one) => ({ ...one, temperatureC: 24 + one.timeS / 50 }));
    expect(warmingKPerMin(warming, limits.intervalS)).toBeCloseTo(1.2, 6);
    expect(alarmsOf(program[0]!, warming, limits)[0]!.text).toContain('1.2 K/min');
    // A current that is not steady explains warmth.
    const unsteady = warming.map((one, i) => ({ ...one, currentA: i * 4 }));
    expect(warmingKPerMin(unsteady, limits.intervalS)).toBeNull();
  });
  it.each([1, 10, 30, 60, 120])('tells warming from readings every %d s, too', (intervalS) => {
    const rising = (kPerMin: number, count: number) =>
      Array.from({ length: count }, (_, i) => ({
        timeS: i * intervalS,
        voltageV: 3.4,
        currentA: 52,
        temperatureC: 24 + (kPerMin * i * intervalS) / 60,
      }));
    const many = Math.ceil(600 / intervalS);
    expect(warmingKPerMin(rising(1.5, many), intervalS)).toBeCloseTo(1.5, 9);
    expect(warmingKPerMin(rising(1.5, 3), intervalS)).toBeNull();
    const enough = Math.max(5, Math.ceil(130 / intervalS) + 1);
    const found = alarmsOf(program[0]!, rising(1.5, enough), { ...limits, intervalS });
    expect(found.map(({ code }) => code)).toEqual(['heatOnCharge']);
    expect(alarmsOf(program[0]!, rising(0.8, 6), { ...limits, intervalS })).toEqual([]);
  });
  it('tell a cut-off that was passed, a wrong voltage, a wrong current, a hot discharge', () => {
    expect(codes(2, { currentA: -20.8, voltageV: 2.44 })).toEqual(['cutoffPassed']);
    expect(codes(0, { voltageV: 3.71 })).toEqual(['voltageHigh']);
    expect(codes(2, { currentA: -20.2 })).toEqual(['currentOff']);
    expect(codes(2, { currentA: -20.8, temperatureC: 61 })).toEqual(['hotOnDischarge']);
  });
});
