import { describe, expect, it } from 'vitest';
import { cellsExample, readCells, unknownCells } from '../src/arrivals';
import fc from 'fast-check';

/** Cells B-0241 to B-0272, ids 1 to 32, every fourth with a mark. */
const CELLS = Array.from({ length: 32 }, (_, i) => ({
  id: i + 1,
  number: `B-${String(241 + i).padStart(4, '0')}`,
  label: i % 4 === 0 ? `XQ7LP${String(i).padStart(3, '0')}` : null,
}));
const ids = (from: number, to: number) => Array.from({ length: to - from + 1 }, (_, i) => from + i);

describe('a list of cells', () => {
  it.each([
    ['241', [1]],
    ['243, 241', [3, 1]],
    ['243 241 243', [3, 1]],
    ['B-0241', [1]],
    ['b241; B-242', [1, 2]],
    ['B-0241 to B-0244', ids(1, 4)],
    ['B-0241 – B-0244', ids(1, 4)],
    ['B-0241-B-0244', ids(1, 4)],
    ['b-0250 bis b-0252, 260', [10, 11, 12, 20]],
    ['241-244', ids(1, 4)],
    ['241 - 244', ids(1, 4)],
    ['200-243', ids(1, 3)],
    ['270-999', ids(30, 32)],
    ['B-0270 to B-0299', ids(30, 32)],
    ['#1-8', ids(1, 8)],
    ['#2', [2]],
    ['#30-99', ids(30, 32)],
    ['XQ7LP004', [5]],
    ['xq7lp000\nxq7lp008', [1, 9]],
    ['first 5', ids(1, 5)],
    ['first 2, 250', [1, 2, 10]],
    ['all', ids(1, 32)],
    ['untested', [4, 6]],
    ['untested, #1', [4, 6, 1]],
    ['', []],
    [' , ;', []],
  ])('“%s”', (text, expected) => {
    expect(readCells(text, CELLS, { untested: [4, 6] })).toEqual({ ids: expected, unknown: [] });
  });

  it.each([
    ['3', ['3']],
    ['1-8', ['1-8']],
    ['#33', ['#33']],
    ['#0', ['#0']],
    ['244-241', ['244-241']],
    ['B-0244 to B-0241', ['B-0244 to B-0241']],
    ['A-0241', ['A-0241']],
    ['24', ['24']],
    ['constructor', ['constructor']],
  ])('“%s” names none, and that is said', (text, unknown) => {
    expect(readCells(text, CELLS)).toEqual({ ids: [], unknown });
  });

  it('says what was not found, and how a list looks', () => {
    expect(unknownCells(readCells('241, 7, 8, 9, 10', CELLS), 'L-002')).toBe(
      '“7”, “8”, “9” and 1 more: no cell of L-002.',
    );
    expect(unknownCells(readCells('241', CELLS), 'L-002')).toBeNull();
    expect(cellsExample(CELLS)).toBe('such as 241, 248 or #1-8');
    expect(cellsExample([])).toBe('no cells yet');
  });

  it('written out in any of the ways, the same cells come back', () => {
    const some = fc.uniqueArray(fc.integer({ min: 0, max: 31 }), { minLength: 1 });
    const way = fc.constantFrom(
      (i: number) => CELLS[i]!.number,
      (i: number) => String(241 + i),
      (i: number) => `#${i + 1}`,
    );
    fc.assert(
      fc.property(some, way, fc.constantFrom(', ', ' ', '; ', '\n'), (places, name, between) => {
        expect(readCells(places.map(name).join(between), CELLS)).toEqual({
          ids: places.map((i) => i + 1),
          unknown: [],
        });
      }),
    );
  });

  it('nothing that is typed breaks it', () => {
    fc.assert(
      fc.property(fc.string(), (text) => {
        const { ids: found } = readCells(text, CELLS);
        expect(new Set(found).size).toBe(found.length);
        expect(found.every((id) => id >= 1 && id <= 32)).toBe(true);
      }),
    );
  });
});
