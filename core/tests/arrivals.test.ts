import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { checkTyped, checkTypedResult, formatCellNumber, matchCell } from '../src/arrivals';
import { claimPlausibility, envelopeOfSizeCode, envelopeVolumeL } from '../src/chemistry';
import {
  canonicalJson,
  decimalsForUncertainty,
  formatNumber,
  formatWithUncertainty,
  parseQuantity,
} from '../src/units';

describe('plausibility of a claim', () => {
  it('worked: 9.9 Ah in a 26650', () => {
    const result = claimPlausibility({
      ratedAh: 9.9,
      chemistry: 'NMC',
      envelope: envelopeOfSizeCode('26650'),
    });
    expect(envelopeVolumeL(envelopeOfSizeCode('26650')!)).toBeCloseTo(0.03451, 5);
    expect(result.whPerL).toBeCloseTo(1033, 0);
    expect(result.possible).toBe(false);
    expect(result.sentence).toBe(
      'The claim needs 1033 Wh/L; NMC / NCA cells reach 850 Wh/L: not possible. At most 8.1 Ah would fit this size.',
    );
  });
  it('the mass can refuse what the size allows', () => {
    const result = claimPlausibility({
      ratedAh: 8,
      chemistry: 'NMC',
      envelope: envelopeOfSizeCode('26650'),
      massG: 70,
    });
    expect(result).toMatchObject({ possible: false });
    expect(result.sentence).toContain('Wh/kg');
  });
  it('is silent without size and mass, and refuses nothing', () => {
    expect(claimPlausibility({ ratedAh: 5, chemistry: 'LFP' })).toMatchObject({
      possible: true,
      largestAh: null,
    });
    expect(() => claimPlausibility({ ratedAh: 0, chemistry: 'LFP' })).toThrow(RangeError);
    expect(envelopeOfSizeCode('104Ah')).toBeNull();
  });
});

describe('cells and their names', () => {
  const cells = ['B-0007', 'B-0017', 'B-0117'].map((number, i) => ({
    number,
    label: ['kf-a', 'kf-b', null][i] ?? null,
  }));
  it.each([
    ['B-0017.csv', 'B-0017'],
    ['cap B0007 (2).tsv', 'B-0007'],
    ['17', 'B-0017'],
    ['0117.csv', 'B-0117'],
    ['run-KF-B-cold.csv', 'B-0017'],
  ])('%s', (text, number) => {
    expect(matchCell(text, cells)?.number).toBe(number);
  });
  it.each(['02-quantity.csv', 'B-0007 B-0017.csv', '9'])('%s fits none', (text) =>
    expect(matchCell(text, cells)).toBeNull(),
  );
  it('numbers have four digits or more', () => {
    expect(formatCellNumber('B', 17)).toBe('B-0017');
    expect(formatCellNumber('B', 12345)).toBe('B-12345');
  });
});

describe('checks while typing', () => {
  const lot = [8.1, 8.2, 8.0, 8.15, 8.25, 8.05, 8.12, 8.18];
  const check = (value: number, previous: number[] = []) =>
    checkTyped('acResistanceMohm', value, { others: lot, previous, expected: null })?.code ?? null;
  it.each([
    [8.2, null],
    [81.2, 'decimal-point'],
    [0.00812, 'unit-slip'],
    [8120, 'unit-slip'],
    [0.81, 'decimal-point'],
    [12.9, 'unlike-the-lot'],
    [9000, 'unit-slip'],
    [-3, 'out-of-range'],
  ])('%d', (value, code) => expect(check(value)).toBe(code));
  it('two digits swapped', () => {
    const others = [18.1, 18.2, 18.0, 18.15, 18.3, 18.05, 18.2];
    expect(
      checkTyped('acResistanceMohm', 81.1, { others, previous: [], expected: null })?.code,
    ).toBe('transposed');
  });
  it('the same five times', () => expect(check(8.1, [8.1, 8.1, 8.1, 8.1])).toBe('same-again'));
  it('mAh for Ah before any other value is known', () => {
    expect(checkTyped('capacityAh', 6100, { others: [], previous: [], expected: 6 })?.code).toBe(
      'unit-slip',
    );
  });
});

describe('quantities as typed', () => {
  it.each([
    ['3120 mAh', 'capacityAh', 3.12],
    ['0,0042 ohm', 'resistanceMohm', 4.2],
    ['4.2', 'resistanceMohm', 4.2],
    ['3,304', 'voltageV', 3.304],
    ['3304mV', 'voltageV', 3.304],
    ['420 µΩ', 'resistanceMohm', 0.42],
  ] as const)('%s', (text, quantity, value) => {
    expect(parseQuantity(text, quantity)).toMatchObject({ ok: true, value });
  });
  it.each(['', 'abc', '3.1 V', '1.2.3', '5 5'])('refuses “%s” as a resistance', (text) => {
    expect(parseQuantity(text, 'resistanceMohm')).toMatchObject({
      ok: false,
      message: expect.stringContaining('Expected a number in mΩ'),
    });
  });
  it('prints with the digits its uncertainty supports', () => {
    expect(formatWithUncertainty(105.65547, 0.62786)).toEqual({
      value: '105.66',
      uncertainty: '0.63',
    });
    expect(formatNumber(-0.0001, 2)).toBe('0.00');
    expect(formatNumber(-12345.6, 1)).toBe('\u221212\u202f345.6');
    expect(decimalsForUncertainty(0)).toBe(3);
  });
  it('canonical JSON does not depend on the order of keys', () => {
    fc.assert(
      fc.property(fc.dictionary(fc.string(), fc.jsonValue()), (object) => {
        const reversed = Object.fromEntries(Object.entries(object).reverse());
        expect(canonicalJson(reversed)).toBe(canonicalJson(object));
        expect(JSON.parse(canonicalJson(object))).toEqual(JSON.parse(JSON.stringify(object)));
      }),
    );
    expect(() => canonicalJson({ a: NaN })).toThrow(TypeError);
  });
});

describe('the arithmetic of a typed result', () => {
  const lfp = { cutoffV: 2.5, chargeV: 3.65, nominalV: 3.2 };
  const none = { ah: null, wh: null, currentA: null, hours: null };
  const question = (result: Partial<typeof none | Record<string, number>>) =>
    checkTypedResult({ ...none, ...result }, lfp)?.question ?? null;
  it('I × t and Ah agree within 3 %, or it asks', () => {
    expect(question({ ah: 104, currentA: 20, hours: 5.2 })).toBeNull();
    expect(question({ ah: 104, currentA: 20, hours: 5.35 })).toBeNull();
    expect(question({ ah: 104, currentA: 20, hours: 5.4 })).toContain(
      '108.0 Ah, not 104 Ah: 3.8 %',
    );
    expect(question({ ah: 104, currentA: -20, hours: 312 })).toContain('minutes typed for hours');
    expect(question({ ah: 104_000, currentA: 20, hours: 5.2 })).toContain('thousandths');
  });
  it('Wh / Ah lies between cut-off and charge voltage, near the mean', () => {
    expect(question({ ah: 100, wh: 322 })).toBeNull();
    expect(question({ ah: 100, wh: 240 })).toContain('2.40 V, outside 2.5 to 3.65 V');
    expect(question({ ah: 100, wh: 400 })).toContain('outside');
    expect(question({ ah: 100, wh: 260 })).toContain('far from the usual 3.2 V');
  });
  it('says nothing of what was not typed', () => {
    expect(question({ ah: 100 })).toBeNull();
    expect(question({ wh: 5, currentA: 3 })).toBeNull();
    expect(question({ currentA: 3, hours: 2 })).toBeNull();
  });
});
