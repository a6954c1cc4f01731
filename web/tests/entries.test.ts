import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  COLUMN,
  shownAsTyped,
  type GridCell,
  initialEntries,
  keyOf,
  type Kind,
  METER_OF,
  parseEntry,
} from '../features/evidence/entry-columns';

const ac = COLUMN.acResistance;

describe('a field of typed readings', () => {
  it.each([
    ['0.432', 'mΩ', 0.432, 3],
    ['0,432', 'mΩ', 0.432, 3],
    ['432 µΩ', 'mΩ', 0.432, 3],
    ['432', 'µΩ', 0.432, 3],
    ['0.43 mΩ', 'µΩ', 0.43, 2],
  ])('%s, bare numbers in %s, is %d mΩ', (text, bare, value, decimals) => {
    const parsed = parseEntry(text, ac, bare);
    expect(parsed).toMatchObject({ ok: true, repeats: null, decimals });
    expect(parsed.ok && parsed.value).toBeCloseTo(value, 12);
  });
  it('holds several resistances whose median counts, the unit behind the last for all', () => {
    expect(parseEntry('0.44 0.43 0.47', ac, 'mΩ')).toEqual({
      ok: true,
      value: 0.44,
      repeats: [0.44, 0.43, 0.47],
      decimals: 2,
    });
    const micro = parseEntry('440 430 470 µΩ', ac, 'mΩ');
    expect(micro.ok && micro.value).toBeCloseTo(0.44, 12);
    expect(parseEntry('1/2;3', ac, 'mΩ')).toMatchObject({ ok: true, repeats: [1, 2, 3] });
  });
  it('says what is wrong, and takes no more than nine at once', () => {
    expect(parseEntry('a lot', ac, 'mΩ').ok).toBe(false);
    expect(parseEntry('3 V', ac, 'mΩ').ok).toBe(false);
    const many = parseEntry('1 2 3 4 5 6 7 8 9 1', ac, 'mΩ');
    expect(!many.ok && many.message).toContain('at most 9');
  });
  it('takes back what it shows, whatever was typed', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 999_999 }),
        fc.integer({ min: 0, max: 5 }),
        fc.constantFrom('.', ','),
        (digits, decimals, mark) => {
          const text = (digits / 10 ** decimals).toFixed(decimals);
          const parsed = parseEntry(text.replace('.', mark), ac, 'mΩ');
          // A comma before three digits may part thousands; then it is asked about, not taken.
          if (!parsed.ok) return expect(mark).toBe(',');
          expect(parsed.value).toBe(Number(text));
          // Zeros that were typed at the end are meant, and shown again.
          expect(parsed.decimals).toBe(decimals);
          expect(shownAsTyped(parsed.value, parsed.decimals)).toBe(text);
        },
      ),
    );
  });
  it('every kind has a column, a unit for bare numbers and a meter', () => {
    for (const kind of Object.keys(COLUMN) as Kind[]) {
      const column = COLUMN[kind];
      expect(column.kind).toBe(kind);
      expect(METER_OF[kind]).toMatch(/^[a-zA-Z]+$/);
      for (const bare of column.bareUnits) {
        const parsed = parseEntry('12', column, bare);
        expect(parsed.ok).toBe(true);
      }
    }
  });
});

describe('what is stored already', () => {
  const cells: GridCell[] = [
    {
      id: 1,
      number: 'B-1',
      label: null,
      readings: {
        acResistance: { value: 0.4, decimals: 3, repeats: [0.4, 0.41, 0.39], clientKey: 'k' },
      },
      voltages: { rest: { value: 3.3312, decimals: 4, repeats: null, clientKey: 'k' } },
    },
    { id: 2, number: 'B-2', label: null, readings: {}, voltages: {} },
  ];
  it('stands in its fields with the digits it was read to', () => {
    const entries = new Map(initialEntries(cells, [COLUMN.openCircuitVoltage, ac], 'arrival'));
    expect([...entries.keys()]).toEqual([keyOf(0, 1)]);
    expect(entries.get('0:1')).toMatchObject({ text: '0.400', value: 0.4, problem: null });
    expect(entries.get('0:1')!.repeats).toHaveLength(3);
  });
  it('is a voltage only under what it was taken for', () => {
    const rest = new Map(initialEntries(cells, [COLUMN.openCircuitVoltage, ac], 'rest'));
    expect(rest.get('0:0')).toMatchObject({ text: '3.3312', value: 3.3312 });
    for (const purpose of ['arrival', 'stock', 'set'] as const)
      expect(initialEntries(cells, [COLUMN.openCircuitVoltage], purpose)).toEqual([]);
  });
  it('of a column that is added later stands behind the others', () => {
    expect(initialEntries(cells, [ac], 'arrival', 4).map(([key]) => key)).toEqual(['0:4']);
  });
});
