import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { decimalsOfColumn } from '../features/verdicts/cell-columns';
import { dayWords, readDay } from '../kit/date-text';
import { quantityOfHead, understand } from '../kit/quantity-field';
import { idOf } from '../lib/id-param';

describe('a day as typed', () => {
  it.each([
    ['2026-11-27', '2026-11-27'],
    ['2026-1-5', '2026-01-05'],
    ['27.11.2026', '2026-11-27'],
    ['27/11/26', '2026-11-27'],
    ['5-3-2026', '2026-03-05'],
    ['5. 3. 2026', null],
    ['27 Nov 2026', '2026-11-27'],
    ['27 november 26', '2026-11-27'],
    ['1. Dec. 2026', '2026-12-01'],
    ['29.2.2028', '2028-02-29'],
    ['', ''],
    ['  ', ''],
  ])('“%s”', (text, day) => expect(readDay(text)).toBe(day));

  it.each(['29.2.2027', '31.4.2026', '0.1.2026', '1.13.2026', '12/31/2026', 'tomorrow', '2026'])(
    '“%s” is none',
    (text) => expect(readDay(text)).toBeNull(),
  );

  it('what is shown of any day is read back as that day', () => {
    const day = fc
      .date({ min: new Date('1990-01-01'), max: new Date('2099-12-31'), noInvalidDate: true })
      .map((at) => at.toISOString().slice(0, 10));
    fc.assert(
      fc.property(day, (iso) => {
        expect(readDay(dayWords(iso))).toBe(iso);
        const [year, month, date] = iso.split('-');
        expect(readDay(`${date}.${month}.${year}`)).toBe(iso);
      }),
    );
  });

  it('what is no day is shown as it was typed', () => {
    expect(dayWords('31.2.2026')).toBe('31.2.2026');
    expect(dayWords('')).toBe('');
  });
});

describe('a number on leaving its field', () => {
  it.each([
    ['4.2', '4.2', null],
    ['4,2', '4.2', '4,2 is 4.2 mΩ'],
    ['0,0042 ohm', '4.2', '0,0042 ohm is 4.2 mΩ'],
    ['420 µΩ', '0.42', '420 µΩ is 0.42 mΩ'],
    ['1,234.5', '1234.5', '1,234.5 is 1234.5 mΩ'],
    ['  ', '', null],
  ])('“%s” of a resistance', (text, kept, said) => {
    const result = understand(text, 'resistanceMohm');
    expect(result.kept).toBe(kept);
    expect(result.said?.text ?? null).toBe(said);
  });

  it('what is none stays as typed, with what was expected', () => {
    const { kept, said } = understand('many', 'resistanceMohm');
    expect(kept).toBe('many');
    expect(said).toMatchObject({ tone: 'wrong' });
    expect(said!.text).toContain('a number in mΩ');
  });

  it('what may be two values stays as typed, with both', () => {
    expect(understand('12,345', 'money')).toMatchObject({
      kept: '12,345',
      said: { tone: 'wrong', either: [12.345, 12_345] },
    });
  });

  it('left once more it says no more', () => {
    fc.assert(
      fc.property(fc.double({ min: -1e5, max: 1e5, noNaN: true }), (value) => {
        const { kept } = understand(`${value.toPrecision(6)} A`, 'currentA');
        expect(understand(kept, 'currentA')).toEqual({ kept, said: null });
      }),
    );
  });

  it.each([
    ['Cut-off / V', 'voltageV'],
    ['AC resistance, highest / mΩ', 'resistanceMohm'],
    ['Mass, within ± %', 'percent'],
    ['Reports every / s', 'plain'],
    ['Ceiling / Wh/L', 'plain'],
    ['Terminal torque / N·m', 'torqueNm'],
    ['at a rate of, data sheet / It', 'rateIt'],
    ['Name', 'plain'],
  ])('“%s” holds %s', (head, quantity) => expect(quantityOfHead(head)).toBe(quantity));
});

describe('decimals of a column', () => {
  it('are those its least certain value supports', () => {
    expect(decimalsOfColumn([0.99, 1.0, null])).toBe(1);
    expect(decimalsOfColumn([0.044, 0.041])).toBe(3);
    expect(decimalsOfColumn([12, 0.5])).toBe(0);
  });
  it('are nobody’s where nothing is known', () => {
    expect(decimalsOfColumn([])).toBeUndefined();
    expect(decimalsOfColumn([null, 0])).toBeUndefined();
  });
});

describe('an id in an address', () => {
  it.each([
    ['17', 17],
    ['4294967295', 4_294_967_295],
    ['1.5', 0],
    ['0', 0],
    ['-3', 0],
    ['007', 0],
    ['1e3', 0],
    ['abc', 0],
    ['', 0],
    ['4294967296', 0],
    ['99999999999999999999', 0],
  ])('“%s”', (text, id) => expect(idOf(text)).toBe(id));
});
