import { describe, expect, it } from 'vitest';
import { fitted, fontParts, widthOf } from '../src/compute/letters';
import { LETTERS, printable, printed, unprintable } from '../src/compute/printable';
import { requirePrintable } from '../src/reports';

describe('letters of a report', () => {
  it('are those the shipped font has', () => {
    const has = new Set(fontParts().flatMap(({ characterSet }) => characterSet));
    expect([...LETTERS].filter((code) => !has.has(code))).toEqual([]);
    expect([...has].filter((code) => code >= 32 && !LETTERS.has(code))).toEqual([]);
  });

  it('are Latin, Greek and Cyrillic ones, and the signs of the trade', () => {
    for (const text of [
      'Østergård & Ünal',
      'Łódź, Ďurčo, Şahin, Ærø, Nguyễn',
      'Αθήνα, Ήπειρος',
      'Київ, Москва, Ђорђе',
      '12.4 ± 0.3 mΩ at 25 °C, ≥ 80 %, 3 × 4 µA, the maker’s “own” – −5',
      // The sign of the ohm, and thin blanks, are written as letters that look alike.
      '0.42 m\u2126, 12\u202f000',
      // A letter and its accent, apart.
      'U\u0308nal',
    ])
      expect([text, unprintable(text)]).toEqual([text, []]);
    expect(unprintable('张伟 and 张')).toEqual(['张', '伟']);
    expect(unprintable('🔋')).toEqual(['🔋']);
  });

  it('that are lacking are stood in for, never left out or another letter', () => {
    expect(printable('张伟 & Co')).toBe('?? & Co');
    expect(printed({ a: ['张', 3, null], png: 'data:image/png;base64,x张' })).toEqual({
      a: ['?', 3, null],
      png: 'data:image/png;base64,x张',
    });
    expect(() => requirePrintable({ Customer: '张', Lot: 'Cans' })).toThrow(
      /^Customer: “张” has a letter a PDF cannot print here \(张\)/,
    );
    expect(() => requirePrintable({ Customer: 'Ünal', Lot: null })).not.toThrow();
  });

  it('fit a column: the ends of a serial number stay', () => {
    const mark = 'SGP26-104-00001234567890';
    const short = fitted(mark, 60, 8);
    expect(widthOf(short, 8)).toBeLessThanOrEqual(60);
    expect(short).toMatch(/^SGP.*….*90$/);
    expect(fitted('B-0241', 60, 8)).toBe('B-0241');
    expect(fitted('WWWWWWWWWW', 1, 8)).toBe('…');
  });
});
