import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  cellsPerStroke,
  gatherStrokes,
  layoutTally,
  MARK_WORDS,
  type TallyStroke,
} from '../kit/tally-layout';
import { chosenPath, describeGathered, strokePaths, whiskerPath } from '../kit/tally-marks';
import { strokeAt, type TallyStep, tallyView, type TallyWalk, walkTally } from '../kit/tally-walk';

const strokesOf = (count: number, share: number | null = 1): TallyStroke[] =>
  Array.from({ length: count }, (_, i) => ({
    number: `B-${i}`,
    share,
    mark: share === null ? ('untested' as const) : ('met' as const),
  }));
const single = (strokes: TallyStroke[]) => gatherStrokes(strokes, 1);

describe('tally layout', () => {
  it.each([1, 5, 240, 10_000])('%d cells all stand inside the picture, in one row', (count) => {
    const gathered = gatherStrokes(strokesOf(count), cellsPerStroke(count, 1040));
    const { placed, height } = layoutTally(gathered, 1040, 64);
    expect(height).toBe(64);
    let last = -1;
    for (const { x, base, height: tall } of placed) {
      expect(x).toBeGreaterThan(last);
      expect(x).toBeLessThan(1040);
      expect(base).toBeLessThanOrEqual(height);
      expect(base - tall).toBeGreaterThanOrEqual(0);
      last = x;
    }
  });

  it('240 cells of a page are a stroke each, 10 000 are fifty to a stroke', () => {
    expect(cellsPerStroke(240, 1040)).toBe(1);
    expect(cellsPerStroke(10_000, 1040)).toBe(50);
  });

  it('a wider picture never gathers more, more cells never less', () => {
    const counts = fc.integer({ min: 1, max: 40_000 });
    fc.assert(
      fc.property(counts, fc.nat(5000), fc.integer({ min: 100, max: 2000 }), (n, more, width) => {
        expect(cellsPerStroke(n + more, width)).toBeGreaterThanOrEqual(cellsPerStroke(n, width));
        expect(cellsPerStroke(n, width + more)).toBeLessThanOrEqual(cellsPerStroke(n, width));
      }),
    );
  });

  it('a gap follows each group of five, and strokes never stand on each other', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 6, max: 500 }),
        fc.integer({ min: 200, max: 2000 }),
        (count, width) => {
          const { placed, pitch } = layoutTally(single(strokesOf(count)), width, 40);
          for (let i = 1; i < count; i++) {
            const gap = placed[i]!.x - placed[i - 1]!.x;
            if (i % 5 === 0) expect(gap).toBeCloseTo(1.7 * pitch, 6);
            else expect(gap).toBeCloseTo(pitch, 6);
          }
        },
      ),
    );
  });

  it('more capacity never stands shorter; the claim line is where 100 % is', () => {
    const at = (share: number) => layoutTally(single(strokesOf(1, share)), 300, 64);
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 1.5, noNaN: true }),
        fc.double({ min: 0, max: 0.5, noNaN: true }),
        (share, more) => {
          expect(at(share + more).placed[0]!.height).toBeGreaterThanOrEqual(
            at(share).placed[0]!.height,
          );
        },
      ),
    );
    expect(at(1).placed[0]!.height).toBeCloseTo(at(1).claimHeight, 9);
    expect(at(0.95).placed[0]!.height).toBeLessThan(at(1).claimHeight);
  });

  it('an untested cell is a stub, an empty lot is nothing', () => {
    expect(layoutTally(single(strokesOf(1, null)), 300, 64).placed[0]!.height).toBeLessThan(10);
    expect(layoutTally([], 300, 64).placed).toEqual([]);
  });
});

describe('gathering', () => {
  const anyLot = fc.array(
    fc.record({
      share: fc.option(fc.double({ min: 0.5, max: 1.3, noNaN: true })),
      mark: fc.constantFrom('met', 'notMet', 'tooClose', 'untested', 'held' as const),
      sign: fc.option(fc.constantFrom('stop', 'note', 'lead' as const)),
    }),
    { minLength: 1, maxLength: 400 },
  );
  const named = (lot: Omit<TallyStroke, 'number'>[]) =>
    lot.map((stroke, i): TallyStroke => ({ ...stroke, number: `B-${i}` }));

  it('keeps every cell, in order, once', () => {
    fc.assert(
      fc.property(anyLot, fc.integer({ min: 1, max: 60 }), (lot, size) => {
        const gathered = gatherStrokes(named(lot), size);
        expect(gathered[0]!.from).toBe(0);
        expect(gathered.at(-1)!.to).toBe(lot.length);
        for (let i = 1; i < gathered.length; i++)
          expect(gathered[i]!.from).toBe(gathered[i - 1]!.to);
      }),
    );
  });

  it('gathered by one it is the cells as they are: no jump in meaning', () => {
    fc.assert(
      fc.property(anyLot, (lot) => {
        const strokes = named(lot);
        gatherStrokes(strokes, 1).forEach((one, i) => {
          const { share, mark, sign } = strokes[i]!;
          expect([one.median, one.low, one.high]).toEqual([share, share, share]);
          expect([one.most, one.worst, one.sign]).toEqual([mark, mark, sign]);
        });
        expect(whiskerPath(layoutTally(gatherStrokes(strokes, 1), 900, 60))).toBe('');
      }),
    );
  });

  it('never hides a missed cell, nor one in quarantine', () => {
    fc.assert(
      fc.property(fc.integer({ min: 100, max: 12_000 }), fc.nat(), (count, where) => {
        const strokes = strokesOf(count);
        strokes[where % count] = { number: 'bad', share: 0.9, mark: 'notMet', sign: 'stop' };
        const gathered = gatherStrokes(strokes, cellsPerStroke(count, 300));
        const bad = gathered.filter(({ worst }) => worst === 'notMet');
        expect(bad).toHaveLength(1);
        expect(bad[0]!.sign).toBe('stop');
        const missed = strokePaths(gathered, layoutTally(gathered, 300, 26)).find(
          ({ mark }) => mark === 'notMet',
        );
        expect(missed!.marks).not.toBe('');
      }),
    );
  });

  it('the median of an even number lies between the middle two; untested ones have no say', () => {
    const [one] = gatherStrokes(
      named(
        [0.9, 1.1, null, 1, 1.02].map((share) => ({
          share,
          mark: share === null ? ('untested' as const) : ('met' as const),
        })),
      ),
      10,
    );
    expect(one).toMatchObject({ low: 0.9, high: 1.1, most: 'met', worst: 'untested' });
    expect(one!.median).toBeCloseTo(1.01, 12);
    expect(layoutTally([one!], 100, 60).placed[0]!.whisker!.low).toBeLessThan(
      layoutTally([one!], 100, 60).placed[0]!.height,
    );
  });

  it('says a stroke in words: one cell, or how many and how they spread', () => {
    const strokes = named([
      { share: 0.9, mark: 'notMet' },
      { share: 1.1, mark: 'met' },
    ]);
    expect(describeGathered(strokes, gatherStrokes(strokes, 1)[0]!)).toBe(
      'B-0: 90.0 % of claim, claim missed',
    );
    expect(describeGathered(strokes, gatherStrokes(strokes, 2)[0]!)).toBe(
      'B-0 to B-1, 2 cells: median 100.0 % of claim, 90.0 % to 110.0 %; claim missed 1, claim met 1',
    );
  });

  it('frames as much of a stroke as is picked of its cells', () => {
    const strokes = strokesOf(10);
    const gathered = gatherStrokes(strokes, 5);
    const layout = layoutTally(gathered, 300, 60);
    const top = (picked: string[]) =>
      Number(/^M\S+ ([\d.]+)h/.exec(chosenPath(strokes, gathered, new Set(picked), layout))![1]);
    expect(chosenPath(strokes, gathered, new Set(), layout)).toBe('');
    expect(top(['B-0'])).toBeGreaterThan(top(['B-0', 'B-1', 'B-2', 'B-3', 'B-4']));
  });

  it('has words for every mark', () => {
    expect(new Set(Object.values(MARK_WORDS)).size).toBe(10);
  });
});

describe('walking a tally', () => {
  const start: TallyWalk = { cell: 0, opened: false, active: false };
  const steps = fc.array(
    fc.oneof(
      fc.record({
        go: fc.constant('by' as const),
        strokes: fc.constantFrom(1, -1, 5, -5, 50, -50, Infinity, -Infinity),
      }),
      fc.record({ go: fc.constant('to' as const), stroke: fc.nat(300) }),
      fc.constantFrom<TallyStep>({ go: 'open' }, { go: 'back' }),
    ),
    { maxLength: 40 },
  );

  it('never leaves the lot, and is always at a stroke that is drawn', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 12_000 }),
        fc.constantFrom(1, 2, 50, 100),
        steps,
        (count, size, list) => {
          let walk = start;
          for (const step of list) {
            walk = walkTally(walk, step, count, size);
            const view = tallyView(walk, count, size);
            expect(walk.cell).toBeGreaterThanOrEqual(0);
            expect(walk.cell).toBeLessThan(count);
            expect(view.from).toBeLessThanOrEqual(walk.cell);
            expect(walk.cell).toBeLessThan(view.to);
            expect(strokeAt(walk, view)).toBeLessThan(Math.ceil((view.to - view.from) / view.size));
          }
        },
      ),
    );
  });

  it('Home and End are the first and the last cell or stroke', () => {
    const end = walkTally(start, { go: 'by', strokes: Infinity }, 240, 1);
    expect(end.cell).toBe(239);
    expect(walkTally(end, { go: 'by', strokes: -Infinity }, 240, 1).cell).toBe(0);
    const long = walkTally(start, { go: 'by', strokes: Infinity }, 10_020, 50);
    expect(strokeAt(long, tallyView(long, 10_020, 50))).toBe(200);
  });

  it('a gathered stroke opens into its cells; past its end the next one opens', () => {
    let walk = walkTally(start, { go: 'to', stroke: 3 }, 10_000, 50);
    walk = walkTally(walk, { go: 'open' }, 10_000, 50);
    expect(tallyView(walk, 10_000, 50)).toEqual({ from: 150, to: 200, size: 1 });
    walk = walkTally(walk, { go: 'by', strokes: 50 }, 10_000, 50);
    expect(tallyView(walk, 10_000, 50)).toEqual({ from: 200, to: 250, size: 1 });
    walk = walkTally(walk, { go: 'back' }, 10_000, 50);
    expect(strokeAt(walk, tallyView(walk, 10_000, 50))).toBe(4);
  });

  it('a lot of single cells has nothing to open', () => {
    expect(walkTally(start, { go: 'open' }, 240, 1).opened).toBe(false);
  });
});
