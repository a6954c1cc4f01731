import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { parseClearQuantity, parseQuantity, STORED_UNIT, type TypedQuantity } from '../src/units';

describe('a quantity as typed', () => {
  it.each<[string, TypedQuantity, number]>([
    ['1,234.5', 'capacityAh', 1234.5],
    ['1.234,5', 'capacityAh', 1234.5],
    ['1,234,567', 'plain', 1_234_567],
    ['1.234.567', 'plain', 1_234_567],
    ['1 234', 'massG', 1234],
    ['1 234,5 g', 'massG', 1234.5],
    ["12'345.60", 'money', 12_345.6],
    ['12’345', 'money', 12_345],
    ['12 345,50', 'money', 12_345.5],
    ['3,291', 'voltageV', 3.291],
    ['-20', 'temperatureC', -20],
    ['−20 °C', 'temperatureC', -20],
    ['25 C', 'temperatureC', 25],
    ['1.5 h', 'durationMin', 90],
    ['90 min', 'durationH', 1.5],
    ['0,2 It', 'rateIt', 0.2],
    ['0.5C', 'rateIt', 0.5],
    ['800 mW', 'powerW', 0.8],
    ['35 Ncm', 'torqueNm', 0.35],
    ['2.5 mm²', 'areaMm2', 2.5],
    ['150 cm', 'cableM', 1.5],
    ['0.01 %', 'ppm', 100],
    ['240', 'count', 240],
    ['1,234,567', 'count', 1_234_567],
    ['4 %', 'percent', 4],
  ])('“%s” as %s', (text, quantity, value) => {
    expect(parseQuantity(text, quantity)).toMatchObject({ ok: true, value });
    expect(parseQuantity(text, quantity)).not.toHaveProperty('doubt');
  });

  it.each<[string, TypedQuantity, number, number]>([
    ['12,345', 'money', 12.345, 12_345],
    ['12.345', 'money', 12.345, 12_345],
    ['1,200', 'count', 1.2, 1200],
    ['3.120 mAh', 'capacityAh', 0.00312, 3.12],
  ])('“%s” as %s may be two values', (text, quantity, value, otherwise) => {
    expect(parseQuantity(text, quantity)).toMatchObject({ ok: true, value, otherwise });
    expect(parseClearQuantity(text, quantity)).toMatchObject({ ok: false });
  });

  it.each<[string, TypedQuantity]>([
    ['1.5', 'count'],
    ['1,23,4', 'plain'],
    ['1.2.3', 'plain'],
    ['1,234.5.6', 'plain'],
    ['3 4', 'plain'],
    ['68 F', 'temperatureC'],
    ['12 EUR', 'money'],
    ['1e400', 'plain'],
    ['NaN', 'plain'],
    ['Infinity', 'plain'],
    ['0x10', 'plain'],
  ])('“%s” as %s is refused with what was expected', (text, quantity) => {
    const parsed = parseQuantity(text, quantity);
    expect(parsed.ok).toBe(false);
    expect(parsed.ok ? '' : parsed.message).toMatch(/^Expected .+; found “/);
  });

  it('a refusal of what may be two values names the stored unit where there is one', () => {
    const asked = (text: string, quantity: TypedQuantity) => {
      const parsed = parseClearQuantity(text, quantity);
      return parsed.ok ? '' : parsed.message;
    };
    expect(asked('12,345', 'money')).toBe(
      '12,345: 12.345, or 12345? Write it without the point or comma.',
    );
    expect(asked('3.120 mAh', 'capacityAh')).toContain('or in Ah.');
  });

  it('a voltage a meter shows in mV is asked about, and offered in V', () => {
    for (const [text, otherwise] of [
      ['3292', 3.292],
      ['3121', 3.121],
      ['52000', 52],
    ] as const)
      expect(parseQuantity(text, 'voltageV')).toMatchObject({ ok: true, otherwise });
    for (const text of ['3292 mV', '3.292', '48', '999', '3292 V', '3292.5'])
      expect(parseQuantity(text, 'voltageV')).not.toHaveProperty('doubt');
    expect(parseClearQuantity('3292', 'voltageV')).toMatchObject({
      ok: false,
      message: '3292: 3292 mV, which is 3.292 V, or 3292 V? Write it with its unit.',
    });
  });

  it('grouped in any usual way, a number is read as it is', () => {
    const groups = fc.constantFrom([',', '.'], ['.', ','], [' ', ','], ["'", '.'], ['’', '.']);
    fc.assert(
      fc.property(
        fc.integer({ min: 1_000_000, max: 9_999_999_999 }),
        fc.integer({ min: 0, max: 99 }),
        groups,
        (whole, cents, [between, mark]) => {
          const grouped = String(whole).replace(/\B(?=(\d{3})+$)/g, between!);
          const text = `${grouped}${mark}${String(cents).padStart(2, '0')}`;
          expect(parseQuantity(text, 'money')).toMatchObject({ ok: true });
          const parsed = parseQuantity(text, 'money');
          expect(parsed.ok && parsed.value).toBeCloseTo(whole + cents / 100, 6);
        },
      ),
    );
  });

  it('what a number is shown as is read back, with and without its unit', () => {
    const quantities = Object.keys(STORED_UNIT) as TypedQuantity[];
    fc.assert(
      fc.property(
        fc.constantFrom(...quantities.filter((one) => one !== 'count' && one !== 'money')),
        fc.double({ min: -1e6, max: 1e6, noNaN: true }),
        fc.boolean(),
        (quantity, value, withUnit) => {
          const shown = String(Number(value.toPrecision(12)));
          const parsed = parseQuantity(
            withUnit ? `${shown} ${STORED_UNIT[quantity]}` : shown,
            quantity,
          );
          expect(parsed).toMatchObject({ ok: true });
          expect(parsed.ok && parsed.value).toBeCloseTo(Number(shown), 9);
        },
      ),
    );
  });
});

describe('digits typed are digits meant', () => {
  it.each([
    ['5.0', 'resistanceMohm', 1],
    ['5.10', 'resistanceMohm', 2],
    ['5,10 mΩ', 'resistanceMohm', 2],
    ['6.00', 'capacityAh', 2],
    ['6000 mAh', 'capacityAh', 3],
    ['4.1600', 'voltageV', 4],
    ['4160.0 mV', 'voltageV', 4],
    ['420 µΩ', 'resistanceMohm', 3],
    ['0.0050 ohm', 'resistanceMohm', 1],
    ['12', 'massG', 0],
    ['1.50e-1', 'plain', 3],
  ] as const)('%s keeps its zeros', (text, quantity, decimals) => {
    expect(parseQuantity(text, quantity)).toMatchObject({ ok: true, decimals });
  });
});
