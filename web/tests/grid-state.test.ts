import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { BLANK, COLUMN, type Entry, entryOf, keyOf } from '@/features/evidence/entry-columns';
import { isAsked, judgeEntry, type JudgeContext } from '@/features/evidence/grid-judge';
import {
  beside,
  commit,
  type Grid,
  gridOf,
  keepColumns,
  type Judge,
  notStored,
  paste,
  refused,
  restored,
  settle,
  turnTo,
  undo,
} from '@/features/evidence/grid-state';
import { nextPlace } from '@/features/evidence/grid-walk';

const ROWS = 6;
const context: JudgeContext = {
  cells: Array.from({ length: ROWS }, (_, i) => ({
    id: i + 1,
    number: `B-${i + 1}`,
    label: null,
    readings: {},
    voltages: {},
  })),
  columns: [COLUMN.acResistance, COLUMN.openCircuitVoltage],
  bare: {},
  expected: { acResistance: 0.45 },
  voltages: { cutoffV: null, chargeV: null, nominalV: null },
};
const judge: Judge = (place, text, among) => judgeEntry(context, place, text, among);
const size = { rows: ROWS, columns: 2 };
const at = (row: number, column = 0) => ({ row, column });
const values = ({ entries }: Grid) =>
  Object.fromEntries(
    [...entries].flatMap(([key, { value }]) => (value === null ? [] : [[key, value]])),
  );
/** What is stored: of places under question what stood there before. */
const stands = ({ entries, asked }: Grid) =>
  Object.fromEntries(
    [...entries].flatMap(([key, entry]) => {
      const { value } = asked.get(key) ?? entry;
      return value === null ? [] : [[key, value]];
    }),
  );
const type = (grid: Grid, row: number, text: string, column = 0) =>
  commit(grid, at(row, column), text, judge);
const fill = (texts: string[]) =>
  texts.reduce((grid, text, row) => type(grid, row, text).grid, gridOf([]));
const good = fc.integer({ min: 400, max: 500 }).map((n) => (n / 1000).toFixed(3));

describe('typing in the grid', () => {
  it('stores what is understood, and lets the hand move on', () => {
    const step = type(gridOf([]), 0, '0,441');
    expect(step.moves).toBe(true);
    expect(step.send).toEqual([['0:0', expect.objectContaining({ value: 0.441 })]]);
    expect(type(step.grid, 0, '0.441').send, 'the same again is nothing new').toEqual([]);
  });

  it('asks once about what is odd; the same again is the answer', () => {
    const grid = fill(['0.44', '0.45', '0.46', '0.45']);
    const odd = type(grid, 4, '4.4');
    expect(odd).toMatchObject({ moves: false, send: [] });
    expect(notStored(odd.grid)).toEqual({ asked: 1, wrong: 0, unplaced: 0, all: 1 });
    const kept = type(odd.grid, 4, '4.4');
    expect(kept.send).toHaveLength(1);
    expect(kept.send[0]![1].kept).toBe(true);
    expect(notStored(kept.grid).all).toBe(0);
    expect(values(undo(kept.grid).grid)).toEqual(values(grid));
  });

  it('what is asked about and not answered is no value others are compared with', () => {
    const grid = type(fill(['0.44', '0.45', '0.46']), 3, '44').grid;
    expect(isAsked(grid.entries.get('3:0')!)).toBe(true);
    // Beside three good ones the next good one is good, whatever waits for an answer.
    expect(type(grid, 4, '0.45').moves).toBe(true);
    const many = [1, 2].reduce((g, r) => type(g, r, '44').grid, fill(['0.44']));
    expect(type(many, 3, '0.45').moves).toBe(true);
  });

  it('what is no number is kept as typed, said, and counted', () => {
    const { grid, moves } = type(gridOf([]), 0, 'a lot');
    expect(moves).toBe(false);
    expect(grid.entries.get('0:0')).toMatchObject({ text: 'a lot', value: null });
    expect(notStored(grid)).toMatchObject({ wrong: 1, all: 1 });
  });

  it('any number of steps, taken back one by one, leaves nothing', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(ROWS - 1), good), { maxLength: 25 }), (steps) => {
        let grid = gridOf([]);
        const seen = [values(grid)];
        for (const [row, text] of steps) {
          const step = type(grid, row, text);
          if (step.send.length > 0) seen.push(values(step.grid));
          grid = step.grid;
          if (!step.moves) return;
        }
        for (const before of seen.slice(0, -1).reverse()) {
          grid = undo(grid).grid;
          expect(values(grid)).toEqual(before);
        }
        expect(undo(grid).at).toBeNull();
      }),
    );
  });
});

describe('pasting', () => {
  it('fills, counts what did not fit, was asked about or not understood', () => {
    const { grid, send } = paste(
      fill(['0.44', '0.45', '0.46']),
      at(3),
      [['0.44'], ['44'], ['ohm'], ['0.45'], ['0.46', '3.3', '1']],
      size,
      judge,
    );
    expect(send).toHaveLength(1);
    expect(notStored(grid)).toEqual({ asked: 1, wrong: 1, unplaced: 4, all: 6 });
  });

  it('one paste is one step back, whatever it covered', () => {
    fc.assert(
      fc.property(
        fc.array(good, { minLength: 1, maxLength: ROWS }),
        fc.array(good),
        (own, copied) => {
          const grid = fill(own);
          const pasted = paste(
            grid,
            at(1),
            copied.map((text) => [text]),
            size,
            judge,
          );
          const back = pasted.send.length > 0 ? undo(pasted.grid) : pasted;
          // A value the paste asks about stays asked about: it was never stored.
          expect(stands(back.grid)).toEqual(stands(grid));
          for (const [key] of pasted.send) expect(back.send.map(([one]) => one)).toContain(key);
        },
      ),
    );
  });

  it('blanks leave what stands', () => {
    const grid = fill(['0.44', '0.45']);
    expect(values(paste(grid, at(0), [[''], ['0.46']], size, judge).grid)).toEqual({
      '0:0': 0.44,
      '1:0': 0.46,
    });
  });
});

const theirs = { person: 'Tess', value: 0.47, decimals: 2, repeats: null, clientKey: 'k2' };

describe('two people in one grid', () => {
  const mine: Entry = { ...BLANK, text: '0.44', value: 0.44 };

  it('what another one types appears, with who it was', () => {
    const grid = beside(gridOf([]), [['2:0', entryOf(theirs, 'Tess')]]);
    expect(grid.entries.get('2:0')).toMatchObject({ text: '0.47', by: 'Tess' });
  });

  it('it is not undone by a step back of one’s own', () => {
    const own = fill(['0.44', '0.45']);
    const grid = beside(own, [['1:0', entryOf(theirs, 'Tess')]]);
    const back = undo(grid);
    expect(back.send.map(([key]) => key)).toEqual(['0:0']);
    expect(values(back.grid)).toEqual({ '1:0': 0.47 });
  });

  it('a value of one’s own that is asked about stays for its answer', () => {
    const asked = type(fill(['0.44', '0.45', '0.46']), 3, '44').grid;
    expect(beside(asked, [['3:0', entryOf(theirs, 'Tess')]])).toEqual(asked);
  });

  it.each([
    ['theirs', 0.47, 0],
    ['mine', 0.44, 1],
  ] as const)('both are shown; %s is taken: %d stands, %d sent', (take, value, sent) => {
    const clash = refused(fill(['0.44']), '0:0', mine, { clash: theirs });
    expect(notStored(clash)).toMatchObject({ asked: 1 });
    expect(commit(clash, at(0), '0.44', judge).moves, 'Enter answers nothing').toBe(false);
    const { grid, send } = settle(clash, '0:0', take);
    expect(values(grid)).toEqual({ '0:0': value });
    expect(send).toHaveLength(sent);
    expect(notStored(grid).all).toBe(0);
    if (take === 'mine') expect(values(undo(grid).grid)).toEqual({ '0:0': 0.47 });
  });

  it('what the server refuses for good comes back with its reason, and typing on is free', () => {
    const grid = refused(gridOf([]), '0:0', mine, { message: 'Too far off.' });
    expect(grid.entries.get('0:0')!.problem).toBe('Not stored: Too far off.');
    expect(type(grid, 0, '0.45').send).toHaveLength(1);
  });
});

describe('after a reload', () => {
  it('nothing looks stored that is not; Enter stores what may be', () => {
    const good = restored(fill(['0.44']), at(1), '0.45', judge);
    expect(good.entries.get('1:0')).toMatchObject({ text: '0.45', value: null });
    expect(notStored(good)).toMatchObject({ wrong: 1, all: 1 });
    const step = type(good, 1, '0.45');
    expect(step.send).toEqual([['1:0', expect.objectContaining({ value: 0.45 })]]);
    expect(notStored(step.grid).all).toBe(0);
  });
  it('what was asked about is asked about again', () => {
    const odd = restored(fill(['0.44', '0.45', '0.46']), at(3), '44', judge);
    expect(isAsked(odd.entries.get('3:0')!)).toBe(true);
    expect(type(odd, 3, '44').send).toHaveLength(1);
  });
});

describe('columns and purposes', () => {
  it('columns that go take their history along', () => {
    const grid = type(fill(['0.44']), 0, '3.3', 1).grid;
    const kept = keepColumns(grid, (column) => column === 0);
    expect(values(kept)).toEqual({ '0:0': 0.44 });
    expect(kept.history).toHaveLength(1);
  });

  it('voltages of another purpose are as they were left', () => {
    const grid = type(fill(['0.44']), 0, '3.3', 1).grid;
    const rest = turnTo(grid, 1, { from: 'arrival', to: 'rest', fresh: [] });
    expect(values(rest)).toEqual({ '0:0': 0.44 });
    const back = turnTo(rest, 1, { from: 'rest', to: 'arrival', fresh: [] });
    expect(values(back)).toEqual({ '0:0': 0.44, '0:1': 3.3 });
    // Somebody typed another one while they were not shown.
    const newer: [string, Entry][] = [['0:1', entryOf({ ...theirs, value: 3.31 }, 'Tess')]];
    expect(values(turnTo(rest, 1, { from: 'rest', to: 'arrival', fresh: newer }))).toEqual({
      '0:0': 0.44,
      '0:1': 3.31,
    });
  });

  it('what waits for an answer waits still when its purpose is shown again', () => {
    const odd = type(fill(['0.44']), 0, 'a lot', 1).grid;
    const rest = turnTo(odd, 1, { from: 'arrival', to: 'rest', fresh: [] });
    const stands: [string, Entry][] = [['0:1', entryOf({ ...theirs, value: 3.31 }, null)]];
    const back = turnTo(rest, 1, { from: 'rest', to: 'arrival', fresh: stands });
    expect(back.entries.get('0:1')!.text).toBe('a lot');
  });
});

describe('where the hand goes', () => {
  const { columns } = context;
  const middle = { atStart: false, atEnd: false };
  it.each([
    ['Enter', 'down', 0, at(2)],
    ['Enter', 'all', 0, at(1, 1)],
    ['Enter', 'all', 1, at(2, 0)],
    ['ArrowUp', 'all', 1, at(0, 1)],
  ] as const)('%s, walking %s, from column %d', (key, walk, column, to) => {
    expect(nextPlace(key, at(1, column), middle, columns, walk)).toEqual(to);
  });
  it('arrows to the side leave the field only at the end of its text', () => {
    expect(nextPlace('ArrowRight', at(1), middle, columns, 'down')).toBeNull();
    expect(
      nextPlace('ArrowRight', at(1), { atStart: false, atEnd: true }, columns, 'down'),
    ).toEqual(at(1, 1));
    expect(
      nextPlace('ArrowLeft', at(1, 1), { atStart: true, atEnd: false }, columns, 'down'),
    ).toEqual(at(1, 0));
    expect(nextPlace('a', at(1), middle, columns, 'down')).toBeNull();
  });
  it('keys of a place are its row and column', () => {
    expect(keyOf(3, 1)).toBe('3:1');
  });
});
