import { describe, expect, it } from 'vitest';
import {
  chargeSides,
  cutoffAdvice,
  cutoffToSet,
  handDoubts,
  handLead,
  type HandPoint,
  handResult,
  newDoubts,
} from '../src/evidence';
import { LOT, point, SETTING } from '../testing/hand-points';

/** The worked example of chapter 2: 104 Ah at 20.8 A. */
const WORKED = [
  point(4 + 38 / 60, { shownAh: 96.4, cellV: 2.93, shownA: 20.8 }),
  point(4 + 47 / 60, { shownAh: 99.5, cellV: 2.5, shownA: 20.8 }),
].map((one) => ({ ...one, decimals: { shownAh: 1, cellV: 3, shownA: 1 } }));

describe('the charge a hand log gives', () => {
  it('is that at the cell’s own cut-off: 99.5 Ah in the worked example, exactly there', () => {
    const { figure } = handResult(WORKED, SETTING, []);
    expect(figure).toMatchObject({ value: 99.5, bound: 'exact', quantity: 'capacity' });
    // The end is a point itself: nothing of the interval is left in the budget.
    expect(figure!.budget.find(({ kind }) => kind === 'endBetweenSamples')).toBeUndefined();
    expect(figure!.standardUncertainty).toBeCloseTo(
      Math.hypot(0.005 * 99.5, 0.01 * (4 + 47 / 60), 0.05) / Math.sqrt(3),
      2,
    );
  });

  it('lies between the two points to 2.8 V, by the lot’s shape, with the interval’s limits', () => {
    const shaped = handResult(WORKED, { ...SETTING, cutoffV: 2.8 }, LOT);
    expect([shaped.figure && shaped.fromAh, shaped.figure && shaped.toAh]).toEqual([96.4, 99.5]);
    const linear = handResult(WORKED, { ...SETTING, cutoffV: 2.8 }, []);
    expect(linear.figure!.value).toBeCloseTo(96.4 + (3.1 * 0.13) / 0.43, 6);
    // A curve falls ever faster: by its shape the crossing is later than by a straight line.
    expect(shaped.figure!.value).toBeGreaterThan(linear.figure!.value);
    expect(shaped.figure!.value).toBeLessThan(99.5);
    const part = linear.figure!.budget.find(({ kind }) => kind === 'endBetweenSamples')!;
    expect(part.standardUncertainty).toBeCloseTo((3.1 * 0.3) / 0.43 / Math.sqrt(3), 6);
  });

  it('counts from the cell, not from the display: a drop over the leads is added', () => {
    const display = WORKED.map(({ values, ...one }) => ({
      ...one,
      values: { shownAh: values.shownAh!, shownA: 20.8, shownV: values.cellV! - 0.104 },
      decimals: { shownAh: 1, shownA: 1, shownV: 3 },
    }));
    const known = handResult(display, { ...SETTING, leadMohm: 5 }, []);
    expect(known.figure!.value).toBeCloseTo(99.5, 1);
    const blind = handResult(display, SETTING, []);
    // Up to 10 mΩ are taken: half of them in the value, all of them in its doubt.
    expect(Math.abs(blind.figure!.value - 99.5)).toBeLessThan(
      2 * blind.figure!.standardUncertainty!,
    );
    expect(blind.figure!.standardUncertainty).toBeGreaterThan(known.figure!.standardUncertainty!);
    expect(blind.figure!.budget.some(({ kind }) => kind === 'leadResistance')).toBe(true);
  });

  it('holds at least what it gave where it was not brought down to its cut-off', () => {
    const early = handResult([WORKED[0]!], SETTING, LOT);
    expect(early.figure).toMatchObject({ value: 96.4, bound: 'atLeast' });
    // A tester whose cut-off stands too high for its leads stops the cell early.
    const stop = point(4.7, { shownAh: 97.8 }, { isStop: true });
    const stopped = handResult([WORKED[0]!, stop], { ...SETTING, setCutoffV: 2.7 }, LOT);
    expect(stopped.figure).toMatchObject({ value: 97.8, bound: 'atLeast' });
    expect(stopped.figure!.steps.join(' ')).toContain('above 2.5 V');
  });

  it('ends at the tester’s own stop where that is the cell’s cut-off', () => {
    const first = point(0.1, { shownAh: 2.1, shownA: 20.8, shownV: 3.146, cellV: 3.25 });
    const stop = point(4.78, { shownAh: 99.6 }, { isStop: true });
    const { figure } = handResult([first, stop], { ...SETTING, setCutoffV: 2.396 }, LOT);
    expect(figure).toMatchObject({ bound: 'exact' });
    expect(figure!.value).toBeCloseTo(99.6, 1);
  });

  it('is worth less by a number alone: its end is not known', () => {
    const alone = handResult(
      [point(4.78, { shownAh: 99.6 }, { isStop: true })],
      { ...SETTING, setCutoffV: 2.5 },
      [],
    );
    const watched = handResult(WORKED, SETTING, []);
    expect(alone.figure!.standardUncertainty!).toBeGreaterThan(
      watched.figure!.standardUncertainty! * 1.3,
    );
    expect(alone.figure!.steps.join(' ')).toContain('nobody read a point before');
  });

  it('needs a charge or a current, and says so', () => {
    expect(handResult([], SETTING, []).reason).toMatch(/^Expected at least one point/);
    expect(handResult([point(1, { cellV: 3 })], SETTING, []).reason).toMatch(/^Expected/);
    expect(handResult([point(1, { shownAh: 0 })], SETTING, []).reason).toMatch(/above 0/);
  });

  it('takes the current over time where the tester has no counter', () => {
    const points = [0.1, 2, 4, 4.7].map((hours, i) =>
      point(hours, { shownA: 20.8, cellV: [3.3, 3.2, 3.1, 2.5][i]! }),
    );
    const { figure } = handResult(points, SETTING, []);
    expect(figure!.value).toBeCloseTo(20.8 * 4.7, 6);
    expect(figure!.budget.some(({ kind }) => kind === 'loadOn')).toBe(true);
  });
});

describe('what a hand log says while it runs', () => {
  const first = point(0.1, { shownAh: 2.1, shownA: 20.8, shownV: 3.146, cellV: 3.25 });

  it('leads from display against terminals, and the cut-off to set', () => {
    const lead = handLead([first], SETTING);
    expect(lead.mohm).toBeCloseTo(5, 2);
    expect(lead.from).toBe('points');
    expect(cutoffToSet(2.5, 20.8, lead)).toBeCloseTo(2.396, 3);
    expect(cutoffAdvice([first], { ...SETTING, setCutoffV: 2.5 }, null)!.text).toContain('2.40 V');
    expect(cutoffAdvice([first], SETTING, null), 'set already').toBeNull();
    expect(handLead([first], { ...SETTING, wires: 4 }).mohm).toBe(0);
    expect(handLead([], { ...SETTING, leadMohm: 3 })).toMatchObject({ mohm: 3, from: 'channel' });
    expect(handLead([], SETTING).mohm).toBeNull();
  });

  it('charge by counter and by current, side by side', () => {
    const sides = chargeSides([first, point(2, { shownAh: 41.4, shownA: 20.8 })], SETTING);
    expect(sides[1]!.counterAh).toBeCloseTo(41.4, 9);
    expect(sides[1]!.currentAh).toBeCloseTo(41.6, 9);
  });

  it('a tester that was found stopped an hour later contradicts nothing', () => {
    const stop = point(5.8, { shownAh: 99.6 }, { isStop: true });
    expect(chargeSides([first, stop], SETTING)[1]).toMatchObject({ currentAh: null });
    expect(handDoubts([first, stop], SETTING)).toEqual([]);
  });

  it('a counter that began above zero, with what to subtract', () => {
    const started = point(0.1, { shownAh: 5.3, shownA: 20.8 });
    const [doubt] = handDoubts([started], SETTING);
    expect(doubt).toMatchObject({ code: 'counter-started' });
    expect(doubt!.subtractAh).toBeCloseTo(3.22, 2);
    expect(handDoubts([started], { ...SETTING, countAtStartAh: 3.2 })).toEqual([]);
    expect(handDoubts([first], SETTING)).toEqual([]);
  });

  it('a resistor, a current set anew, a frozen display, a counter gone back, a mistyped power', () => {
    const codes = (...points: HandPoint[]) => handDoubts(points, SETTING).map(({ code }) => code);
    const at = (hours: number, amps: number, volts: number, ah: number) =>
      point(hours, { shownA: amps, shownV: volts, shownAh: ah });
    expect(codes(at(0.1, 20.8, 3.3, 2.1), at(2, 19.5, 3.1, 40.3))).toEqual(['current-drifts']);
    expect(codes(at(0.1, 20.8, 3.3, 2.1), at(2, 10.4, 3.3, 32))).toContain('current-reset');
    expect(codes(at(2, 20.8, 3.2, 41.5), at(2.2, 20.8, 3.2, 41.5))).toContain('display-frozen');
    expect(codes(at(2, 20.8, 3.2, 41.5), at(2.2, 20.8, 3.2, 4.6))).toContain('counter-backwards');
    expect(codes(at(2, 20.8, 3.2, 35))).toEqual(['counter-and-current']);
    expect(codes(point(0.1, { shownV: 3.2, shownA: 20.8, shownW: 26 }))).toEqual(['power']);
    expect(codes(point(1, { shownV: 3.2, cellV: 3.1 }))).toEqual(['above-tester']);
    expect(codes(point(1, { shownS: 1800 }))).toEqual(['clock']);
  });

  it('heat first, as a danger', () => {
    const hot = handDoubts(
      [point(0.1, { shownAh: 5.3, shownA: 20.8, cableC: 66, cellC: 30, terminalC: 45 })],
      SETTING,
    );
    expect(hot.map(({ code }) => code)).toEqual(['hot-cable', 'hot-terminal', 'counter-started']);
    expect(hot.map(({ isDanger }) => isDanger)).toEqual([true, true, false]);
  });

  it('asks of a new point only what was not there before it', () => {
    const bad = point(2, { shownAh: 4.15, shownA: 20.8 });
    expect(newDoubts(bad, [first], SETTING).map(({ code }) => code)).toEqual([
      'counter-and-current',
    ]);
    const started = point(0.1, { shownAh: 5.3, shownA: 20.8 });
    expect(newDoubts(point(0.5, { shownAh: 13.6, shownA: 20.8 }), [started], SETTING)).toEqual([]);
  });
});
