import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  comparePlain,
  type DataColumn,
  firstLayout,
  hasWords,
  type Layout,
  layoutOf,
  layoutText,
  moved,
  type Plain,
  toggled,
  viewOf,
} from '../kit/data-table/columns';
import { asCsv, asTsv, asXlsx, plainRows } from '../kit/data-table/export-rows';
import { NONE, pressed, pressedAll, type Selection, share } from '../kit/data-table/selection';

interface Row {
  number: string;
  ah: number | null;
  grade: string;
}
const column = (key: keyof Row, more: Partial<DataColumn<Row>> = {}): DataColumn<Row> => ({
  key,
  head: key,
  width: 100,
  plain: (row) => row[key],
  cell: (row) => row[key],
  ...more,
});
const COLUMNS = [column('number'), column('ah'), column('grade', { hiddenAtFirst: true })];
const query = (text: string) => new URLSearchParams(text);

describe('which columns stand where', () => {
  it('begins with all that are not hidden at first, and says nothing of it in the address', () => {
    const first = firstLayout(COLUMNS);
    expect(first.order).toEqual(['number', 'ah', 'grade']);
    expect([...first.hidden]).toEqual(['grade']);
    expect(layoutText(COLUMNS, first)).toBeNull();
    expect(layoutOf(COLUMNS, null)).toEqual(first);
  });

  it.each([
    ['grade,number', ['grade', 'number', 'ah'], ['ah']],
    ['ah', ['ah', 'number', 'grade'], ['number', 'grade']],
    ['ah,ah,number', ['ah', 'number', 'grade'], ['grade']],
    ['nonsense,ah', ['ah', 'number', 'grade'], ['number', 'grade']],
  ])('“%s” in the address', (text, order, hidden) => {
    const layout = layoutOf(COLUMNS, text);
    expect(layout.order).toEqual(order);
    expect([...layout.hidden]).toEqual(hidden);
  });

  it('what names no column is as if nothing stood there', () => {
    for (const text of ['', ',', 'nonsense', '__proto__'])
      expect(layoutOf(COLUMNS, text)).toEqual(firstLayout(COLUMNS));
  });

  it('whatever is hidden and moved comes back out of the address', () => {
    const act = fc.record({
      key: fc.constantFrom('number', 'ah', 'grade'),
      by: fc.constantFrom<-1 | 1 | 0>(-1, 1, 0),
    });
    fc.assert(
      fc.property(fc.array(act, { maxLength: 12 }), (acts) => {
        const layout = acts.reduce<Layout>(
          (now, { key, by }) => (by === 0 ? toggled(now, key) : moved(now, key, by)),
          firstLayout(COLUMNS),
        );
        const shown = (of: Layout) => of.order.filter((key) => !of.hidden.has(key));
        expect(shown(layout).length).toBeGreaterThan(0);
        expect([...layout.order].sort()).toEqual(['ah', 'grade', 'number']);
        expect(shown(layoutOf(COLUMNS, layoutText(COLUMNS, layout)))).toEqual(shown(layout));
      }),
    );
  });

  it('the last column shown stays, the first and last go no further', () => {
    const only: Layout = { order: ['ah', 'number', 'grade'], hidden: new Set(['number', 'grade']) };
    expect(toggled(only, 'ah')).toEqual(only);
    const first = firstLayout(COLUMNS);
    expect(moved(first, 'number', -1)).toEqual(first);
    expect(moved(first, 'ah', 1)).toEqual(first);
    // Hidden columns are passed over.
    expect(moved(first, 'grade', -1)).toEqual(first);
    expect(moved(first, 'number', 1).order.slice(0, 2)).toEqual(['ah', 'number']);
  });
});

describe('what the address says of a table', () => {
  it('is taken where it makes sense', () => {
    expect(viewOf(COLUMNS, query('sort=ah&falling=1&find=B-01'))).toMatchObject({
      sort: 'ah',
      falling: true,
      find: 'B-01',
    });
  });

  it('is left where it does not', () => {
    const unsorted = [column('number', { unsorted: true })];
    expect(viewOf(unsorted, query('sort=number')).sort).toBeNull();
    expect(viewOf(COLUMNS, query('sort=nonsense&falling=2'))).toMatchObject({
      sort: null,
      falling: false,
      find: '',
    });
  });
});

describe('order and search', () => {
  it('numbers inside words count as numbers', () => {
    const words = ['B-10', 'B-9', 'B-100', 'A-200'];
    expect([...words].sort(comparePlain)).toEqual(['A-200', 'B-9', 'B-10', 'B-100']);
    expect([3, -1, 2.5].sort(comparePlain)).toEqual([-1, 2.5, 3]);
    expect(comparePlain(Infinity, Infinity)).toBe(0);
  });

  it('is a total order', () => {
    const plain: fc.Arbitrary<Plain> = fc.oneof(fc.double({ noNaN: true }), fc.string());
    fc.assert(
      fc.property(plain, plain, (a, b) => {
        expect(Math.sign(comparePlain(a, b)) + Math.sign(comparePlain(b, a))).toBe(0);
        expect(comparePlain(a, a)).toBe(0);
      }),
    );
  });

  it('finds rows that have every word somewhere', () => {
    const row: Row = { number: 'B-0017', ah: 104.2, grade: 'Second' };
    for (const text of ['b-0017', 'second 104', '104.2 B-', '']) {
      expect(hasWords(COLUMNS, row, text)).toBe(true);
    }
    for (const text of ['b-0018', 'second first', 'B-0017104'])
      expect(hasWords(COLUMNS, row, text)).toBe(false);
  });
});

describe('chosen rows', () => {
  const ids = ['a', 'b', 'c', 'd', 'e'];
  const chosen = (selection: Selection) => [...selection.chosen].sort().join('');

  it('a press takes, a second one leaves', () => {
    const one = pressed(NONE, ids, 'b', false);
    expect(chosen(one)).toBe('b');
    expect(chosen(pressed(one, ids, 'b', false))).toBe('');
  });

  it('with Shift all up to it become what the one pressed before is', () => {
    const from = pressed(NONE, ids, 'b', false);
    const range = pressed(from, ids, 'd', true);
    expect(chosen(range)).toBe('bcd');
    // Shift goes on from the same row, either way.
    expect(chosen(pressed(range, ids, 'a', true))).toBe('abcd');
    const left = pressed(range, ids, 'c', false);
    expect(chosen(pressed(left, ids, 'e', true))).toBe('b');
  });

  it('with Shift and nothing pressed before it is a press', () => {
    expect(chosen(pressed(NONE, ids, 'c', true))).toBe('c');
    const gone: Selection = { chosen: new Set(['z']), anchor: 'z' };
    expect(chosen(pressed(gone, ids, 'a', true))).toBe('az');
  });

  it('all, then none', () => {
    const all = pressedAll(pressed(NONE, ids, 'b', false), ids);
    expect(chosen(all)).toBe('abcde');
    expect(share(all, ids)).toBe(true);
    expect(pressedAll(all, ids)).toEqual(NONE);
    expect(share(NONE, ids)).toBe(false);
    expect(share(pressed(NONE, ids, 'b', false), ids)).toBe('some');
  });
});

describe('rows that go out', () => {
  const rows: Row[] = [
    { number: 'B-0001', ah: 104.25, grade: 'First, good' },
    { number: '=SUM(A1)', ah: null, grade: 'said “so”\tand\nso "' },
  ];
  const { heads, body } = plainRows(COLUMNS, rows);

  it('take along what goes with a column, once', () => {
    const beside = COLUMNS.map((column) =>
      column.key === 'ah'
        ? { ...column, beside: [{ head: 'U', plain: ({ ah }: Row) => (ah === null ? null : 0.5) }] }
        : column,
    );
    const out = plainRows(beside, rows);
    expect(out.heads).toEqual(['number', 'ah', 'U', 'grade']);
    expect(out.body.map((line) => line[2])).toEqual([0.5, null]);
    // Shown as a column of its own it does not come twice.
    const own = { ...COLUMNS[0]!, key: 'U', head: 'U' };
    expect(plainRows([...beside, own], rows).heads).toEqual(['number', 'ah', 'grade', 'U']);
  });

  it('as lines for a spreadsheet, one row a line', () => {
    expect(asTsv(heads, body)).toBe(
      'number\tah\tgrade\nB-0001\t104.25\tFirst, good\n=SUM(A1)\t\tsaid “so” and so "',
    );
  });

  it('as CSV: quoted where needed, and nothing runs as a formula', () => {
    const lines = asCsv(heads, body).split('\r\n');
    expect(lines[0]).toBe('\ufeffnumber,ah,grade');
    expect(lines[1]).toBe('B-0001,104.25,"First, good"');
    expect(lines[2]).toBe('\'=SUM(A1),,"said “so” and so """');
    expect(lines).toHaveLength(4);
  });

  it('a negative number stays a number', () => {
    expect(asCsv(['x'], [[-3.5]])).toContain('\r\n-3.5\r\n');
  });

  it('as a workbook: numbers are numbers, words are words', async () => {
    const { Workbook } = await import('exceljs');
    const blob = await asXlsx('Cells of L-001: all / some', heads, body);
    const book = new Workbook();
    await book.xlsx.load(await blob.arrayBuffer());
    const sheet = book.worksheets[0]!;
    expect(sheet.name).toBe('Cells of L-001  all   some');
    expect(sheet.getCell('B2').value).toBe(104.25);
    expect(sheet.getCell('A3').value).toBe('=SUM(A1)');
    expect(sheet.getCell('B3').value).toBeNull();
  });
});
