import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { CellText, CellValues } from '../src/evidence/reading/cell-text';
import type { Dialect } from '../src/evidence/reading/dialect';
import { columnUnit, splitHeader } from '../src/evidence/reading/units-of-columns';

describe('a unit at a column', () => {
  it.each([
    ['mV', 'voltage', 1e-3],
    ['V', 'voltage', 1],
    ['µV', 'voltage', 1e-6],
    ['μA', 'current', 1e-6],
    ['mA', 'current', 1e-3],
    ['mAh', 'charge', 1e-3],
    ['As', 'charge', 1 / 3600],
    ['A·h', 'charge', 1],
    ['kWh', 'energy', 1e3],
    ['J', 'energy', 1 / 3600],
    ['kW', 'power', 1e3],
    ['Ω', 'resistance', 1e3],
    ['mΩ', 'resistance', 1],
    ['mOhm', 'resistance', 1],
    ['min', 'time', 60],
    ['Std', 'time', 3600],
    ['heures', 'time', 3600],
    ['ms', 'time', 1e-3],
    ['d', 'time', 86_400],
    ['%', 'share', 1],
  ])('%s is a %s, times %f', (text, dimension, factor) => {
    expect(columnUnit(text)).toMatchObject({ dimension, factor, offset: 0 });
    expect(
      columnUnit(`  ${text.toUpperCase() === text ? text : text.toLowerCase()} `),
    ).toMatchObject({ dimension });
  });

  it('temperatures have a zero of their own', () => {
    const inC = (text: string, value: number) => {
      const { factor, offset } = columnUnit(text)!;
      return value * factor + offset;
    };
    expect(inC('°C', 25)).toBe(25);
    expect(inC('K', 298.15)).toBeCloseTo(25, 10);
    expect(inC('°F', 77)).toBeCloseTo(25, 10);
    expect(inC('degF', 32)).toBeCloseTo(0, 10);
  });

  it.each(['', 'cell', 'x', 'mm', 'step', 'V/s', 'constructor', '__proto__'])(
    '“%s” is none',
    (text) => expect(columnUnit(text)).toBeNull(),
  );
});

describe('a header taken apart', () => {
  it.each([
    ['Voltage / V', 'Voltage', 'V'],
    ['U (V)', 'U', 'V'],
    ['U [mV]', 'U', 'mV'],
    ['Current {A}', 'Current', 'A'],
    ['Capacity <mAh>', 'Capacity', 'mAh'],
    ['cell1_V', 'cell1', 'V'],
    ['Temp. °C', 'Temp', '°C'],
    ['time-s', 'time', 's'],
    ['mAh', '', 'mAh'],
    ['"Energy / Wh"', 'Energy', 'Wh'],
    ['  Elapsed   time / min ', 'Elapsed time', 'min'],
    ['Ladung (Ah)', 'Ladung', 'Ah'],
    ['Time (hh:mm:ss)', 'Time', 'h:mm:ss'],
  ])('%s: %s in %s', (cell, name, symbol) => {
    expect(splitHeader(cell)).toMatchObject({ name, unit: { symbol } });
  });

  it('what stands in brackets and is no unit is left out of the name', () => {
    expect(splitHeader('Current (measured)')).toEqual({ name: 'Current', unit: null });
    expect(splitHeader('Step index')).toEqual({ name: 'Step index', unit: null });
    expect(splitHeader('')).toEqual({ name: '', unit: null });
  });

  it('never throws, and a name is never longer than what was written', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 400, unit: 'grapheme' }), (text) => {
        const { name } = splitHeader(text);
        expect(name.length).toBeLessThanOrEqual(Math.min(120, text.length));
      }),
    );
  });
});

const bytes = (text: string) => new TextEncoder().encode(text);

describe('cells of a line of bytes', () => {
  const read = (line: string, delimiter = ',') => {
    const text = new CellText(bytes(line), delimiter.charCodeAt(0));
    const cells: string[] = [];
    for (let at = 0; ;) {
      const { text: cell, end } = text.cell(at);
      cells.push(cell);
      if (bytes(line)[end] !== delimiter.charCodeAt(0)) return { cells, end };
      at = end + 1;
    }
  };

  it('end at the delimiter, quotes hold it, two quotes are one', () => {
    expect(read('1.5,"2,5",x').cells).toEqual(['1.5', '2,5', 'x']);
    expect(read('"say ""so""",2').cells).toEqual(['say "so"', '2']);
    expect(read('1;2,5;;3\r\n9', ';').cells).toEqual(['1', '2,5', '', '3']);
  });

  it('a quote that never ends takes the rest, and nothing beyond the bytes is read', () => {
    expect(read('1,"open').cells).toEqual(['1', 'open']);
    expect(read('"').cells).toEqual(['']);
    expect(read('').cells).toEqual(['']);
  });

  it('letters of any language, short and long', () => {
    const long = 'Spannung über der Zelle, gemessen an den Klemmen, in Volt';
    expect(read(`Größe,"${long}"`).cells).toEqual(['Größe', long]);
  });

  it('are taken apart as they were put together', () => {
    const cell = fc
      .string({ unit: 'grapheme', maxLength: 60 })
      .filter((text) => !/[\r\n]/.test(text));
    fc.assert(
      fc.property(fc.array(cell, { minLength: 1, maxLength: 5 }), (cells) => {
        const line = cells.map((text) => `"${text.replaceAll('"', '""')}"`).join(',');
        expect(read(line).cells).toEqual(cells);
      }),
    );
  });
});

describe('what a cell means', () => {
  const values = (more: Partial<Dialect> = {}) =>
    new CellValues({ decimalMark: '.', timeStyle: 'stamp', dayFirst: false, ...more } as Dialect);

  it.each([
    ['3.301', 3.301],
    ['-0.5', -0.5],
    ['+.5', 0.5],
    ['7.', 7],
    ['1e-3', 0.001],
    ['1.2E+2', 120],
  ])('%s is %f', (text, number) => expect(values().numberOf(text)).toBe(number));

  it.each(['', 'OVLD', '1,5', '1.2.3', '--1', '0x10', 'Infinity', ' 1', '1'.repeat(65)])(
    '“%s” is no number',
    (text) => expect(values().numberOf(text)).toBeNaN(),
  );

  it('a comma is a point where the log writes so', () => {
    expect(values({ decimalMark: ',' }).numberOf('3,301')).toBe(3.301);
    expect(values({ decimalMark: ',' }).withoutGroups('12.345,6')).toBe('12345,6');
    expect(values().withoutGroups('12,345.6')).toBe('12345.6');
  });

  it('a clock counts from midnight; a stamp may have its date in another column', () => {
    expect(values({ timeStyle: 'clock' }).momentOf('01:02:03.5', '')).toBe(3723.5);
    const at =
      values().momentOf('10:00:01', '2026-03-02') - values().momentOf('10:00:00', '2026-03-02');
    expect(at).toBe(1);
    const days =
      values({ dayFirst: true }).momentOf('02.03.2026 10:00:00', '') -
      values().momentOf('2026-03-02 10:00:00', '');
    expect(days).toBe(0);
  });
});
