import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { checkTyped, checkTypedResult, type TypedColumn, type TypedContext } from '../src/arrivals';

const alone: TypedContext = { others: [], previous: [], expected: null };
const ask = (column: TypedColumn, value: number, more: Partial<TypedContext> = {}) =>
  checkTyped(column, value, { ...alone, ...more });

describe('what a column can hold at all', () => {
  it.each<[TypedColumn, number, number, string]>([
    ['acResistanceMohm', 0.05, 5000, 'mΩ'],
    ['ocvV', 0, 5, 'V'],
    ['capacityAh', 0.005, 2000, 'Ah'],
    ['massG', 1, 20_000, 'g'],
    ['thicknessMm', 0.5, 400, 'mm'],
    ['energyWh', 0.01, 1e6, 'Wh'],
    ['currentA', 0.001, 5000, 'A'],
    ['durationH', 0.001, 2000, 'h'],
  ])('%s: %d to %d %s, ends among it', (column, low, high, unit) => {
    expect(ask(column, low)).toBeNull();
    expect(ask(column, high)).toBeNull();
    for (const beyond of [low - 0.0001, high * 1.0001])
      expect(ask(column, beyond)).toEqual({
        code: 'out-of-range',
        question: `${beyond} ${unit} is outside what a cell can show (${low} to ${high} ${unit}). Keep it?`,
      });
  });
});

describe('slips of the unit and of the decimal point', () => {
  it.each<[TypedColumn, number, number, string]>([
    ['acResistanceMohm', 0.4, 0.0004, '0.0004 mΩ is a thousandth of the usual 0.4 mΩ: Ω and mΩ?'],
    ['ocvV', 3.3, 3298, '3298 V is a thousand times the usual 3.3 V: mV for V?'],
    ['capacityAh', 6, 6100, '6100 Ah is a thousand times the usual 6 Ah: mAh for Ah?'],
    ['massG', 2000, 1.98, '1.98 g is a thousandth of the usual 2000 g: kg and g?'],
    ['thicknessMm', 36, 0.036, '0.036 mm is a thousandth of the usual 36 mm: m and mm?'],
    ['energyWh', 333, 0.32, '0.32 Wh is a thousandth of the usual 333 Wh: kWh and Wh?'],
    ['currentA', 20, 20_000, '20000 A is a thousand times the usual 20 A: mA and A?'],
    ['durationH', 5, 5000, '5000 h is a thousand times the usual 5 h: a thousandth of hours?'],
  ])('%s: about %d, typed %d', (column, expected, value, question) => {
    expect(ask(column, value, { expected })).toEqual({ code: 'unit-slip', question });
  });

  it.each([
    [10, 4.1],
    [100, 41],
    [0.1, 0.041],
    [0.01, 0.0041],
  ])('%d times what is usual asks for the decimal point', (_factor, value) => {
    expect(ask('acResistanceMohm', value, { expected: 0.41 })).toEqual({
      code: 'decimal-point',
      question: `${value} mΩ against the usual 0.41 mΩ: is the decimal point right?`,
    });
  });

  it('the first is told within 30 %, the second within 25 %', () => {
    const of = (value: number) => ask('capacityAh', value, { expected: 1 })?.code ?? null;
    expect([701, 1299].map(of)).toEqual(['unit-slip', 'unit-slip']);
    expect([699, 1301].map(of)).toEqual([null, null]);
    expect([7.51, 12.49].map(of)).toEqual(['decimal-point', 'decimal-point']);
    expect([7.4, 12.6].map(of)).toEqual([null, null]);
  });

  it('the lot’s own middle counts before the claim, once five are known', () => {
    const five = [8, 9, 8.5, 8.2, 8.7];
    const asked = (others: number[]) =>
      ask('acResistanceMohm', 0.85, { others, expected: 0.85 })?.code ?? null;
    expect(asked(five.slice(1))).toBeNull();
    expect(asked(five)).toBe('decimal-point');
  });

  it('nothing usual, or a usual of nothing, asks for neither', () => {
    expect(ask('ocvV', 3.3, { expected: 0 })).toBeNull();
    expect(ask('ocvV', 3.3)).toBeNull();
  });
});

describe('among its own lot', () => {
  const others = [18.1, 18.2, 18.0, 18.15, 18.3, 18.05, 18.2];

  it.each([
    [81.1, 'transposed'],
    [81.3, 'transposed'],
    // Two digits that are the same change nothing, and others do not bring it near.
    [11.8, 'unlike-the-lot'],
    [21.7, 'unlike-the-lot'],
    [15.2, 'unlike-the-lot'],
    [18.4, null],
  ])('%d: %s', (value, code) =>
    expect(ask('acResistanceMohm', value, { others })?.code ?? null).toBe(code),
  );

  it('digits are swapped wherever they stand, never across the decimal point', () => {
    const lot = [103.1, 103.4, 102.9, 103.2, 103.5, 103.3];
    const code = (value: number) => ask('capacityAh', value, { others: lot })?.code;
    expect(code(130.2)).toBe('transposed');
    expect(code(13.02)).toBe('unlike-the-lot');
    expect(code(301.2)).toBe('unlike-the-lot');
  });

  it('what is far says how far from what', () => {
    expect(ask('acResistanceMohm', 21.7, { others })).toEqual({
      code: 'unlike-the-lot',
      question: '21.7 mΩ is far from the rest of the lot (median 18.15 mΩ). Keep it?',
    });
  });

  it('a lot that hardly scatters is no reason to ask about its last digit', () => {
    // Median absolute deviation 0.001: 3.305 would be five of them away.
    const close = [3.3, 3.301, 3.299, 3.3, 3.301, 3.302, 3.299];
    expect(ask('ocvV', 3.305, { others: close })).toBeNull();
    // Changed over it would be 3.23, further off still.
    expect(ask('ocvV', 3.32, { others: close })?.code).toBe('unlike-the-lot');
    expect(ask('ocvV', 3.03, { others: close })?.code).toBe('transposed');
  });

  it('the fifth of the same is asked about, whatever came before the four', () => {
    const code = (previous: number[]) => ask('ocvV', 3.3, { previous })?.code ?? null;
    expect(code([3.3, 3.3, 3.3])).toBeNull();
    expect(code([3.3, 3.3, 3.3, 3.3])).toBe('same-again');
    expect(code([3.3, 3.3, 3.3, 3.3, 3.1])).toBe('same-again');
    expect(code([3.3, 3.3, 3.1, 3.3, 3.3])).toBeNull();
  });

  it('what lies between its neighbours is never asked about', () => {
    const lots = fc.array(fc.double({ min: 17, max: 19, noNaN: true }), {
      minLength: 5,
      maxLength: 40,
    });
    fc.assert(
      fc.property(lots, fc.double({ min: 0, max: 1, noNaN: true }), (values, share) => {
        const sorted = [...values].sort((a, b) => a - b);
        const quarter = sorted.length >> 2;
        const [low, high] = [sorted[quarter]!, sorted[sorted.length - 1 - quarter]!];
        const value = low + (high - low) * share;
        expect(ask('acResistanceMohm', value, { others: values })).toBeNull();
      }),
      { seed: 4 },
    );
  });

  it('the order of the others does not matter', () => {
    fc.assert(
      fc.property(
        fc.shuffledSubarray(others, { minLength: others.length, maxLength: others.length }),
        fc.double({ min: 0.1, max: 400, noNaN: true }),
        (shuffled, value) => {
          expect(ask('acResistanceMohm', value, { others: shuffled })).toEqual(
            ask('acResistanceMohm', value, { others }),
          );
        },
      ),
      { seed: 5 },
    );
  });
});

describe('the arithmetic of a typed result', () => {
  const nothing = { ah: null, wh: null, currentA: null, hours: null };
  const cell = { cutoffV: 2.5, chargeV: 3.65, nominalV: 3.2 };
  const code = (typed: Partial<Record<keyof typeof nothing, number>>, of: object = cell) =>
    checkTypedResult({ ...nothing, ...typed }, { ...cell, ...of })?.code ?? null;

  it('current times time is the charge within 3 %, whichever way the current is written', () => {
    expect(code({ ah: 100, currentA: 20, hours: 5.14 })).toBeNull();
    expect(code({ ah: 100, currentA: -20, hours: 5.14 })).toBeNull();
    expect(code({ ah: 100, currentA: 20, hours: 5.16 })).toBe('time-and-charge');
    expect(code({ ah: 100, currentA: 20, hours: 4.84 })).toBe('time-and-charge');
    expect(code({ ah: 100, currentA: 20, hours: 4.86 })).toBeNull();
  });
  it('says what it makes, and how far that is', () => {
    expect(
      checkTypedResult({ ...nothing, ah: 100, currentA: 20, hours: 4 }, cell)!.question,
    ).toMatch(/^20 A for 4 h make 80\.00 Ah, not 100 Ah: 22\.2 % apart/);
  });
  it('energy over charge is a voltage of the cell', () => {
    expect(code({ ah: 100, wh: 320 })).toBeNull();
    expect(code({ ah: 100, wh: 249 })).toBe('energy-and-charge');
    expect(code({ ah: 100, wh: 366 })).toBe('energy-and-charge');
    // Within the limits, and still no mean of a discharge.
    expect(code({ ah: 100, wh: 280 })).toBe('energy-and-charge');
    expect(code({ ah: 100, wh: 283 })).toBeNull();
    expect(code({ ah: 100, wh: 280 }, { nominalV: null })).toBeNull();
  });
  it('without limits only the mean is looked at; without any, nothing', () => {
    expect(code({ ah: 100, wh: 500 }, { cutoffV: null, chargeV: null })).toBe('energy-and-charge');
    expect(code({ ah: 100, wh: 500 }, { cutoffV: null, chargeV: null, nominalV: null })).toBeNull();
  });
  it('what is not there is not asked about', () => {
    expect(code({})).toBeNull();
    expect(code({ ah: 100 })).toBeNull();
    expect(code({ wh: 320, currentA: 20, hours: 5 })).toBeNull();
    expect(code({ ah: 0, wh: 1, currentA: 1, hours: 1 })).toBeNull();
  });
});
