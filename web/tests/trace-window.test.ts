import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  dragged,
  holeWords,
  shownOf,
  timeScale,
  traceCsv,
  type TracePoint,
  withHoles,
  zoomed,
} from '@/features/evidence/trace-window';

const DECIMALS = { timeS: 0, voltageV: 3, currentA: 3, temperatureC: 1 };
const at = (h: number): TracePoint => ({ h, v: 3.3, a: -20, c: null, ah: 5 });

describe('the window on a run', () => {
  const moves = fc.array(fc.tuple(fc.constantFrom(0.5, 1, 2), fc.constantFrom(-0.25, 0, 0.25)), {
    maxLength: 30,
  });
  it('never leaves the run, and is all of it again when it is wide enough', () => {
    fc.assert(
      fc.property(fc.integer({ min: 60, max: 400_000 }), moves, (durationS, list) => {
        let range = null as ReturnType<typeof zoomed>;
        for (const [factor, shift] of list) {
          range = zoomed({ range, durationS }, factor, shift);
          const { fromS, toS } = shownOf({ range, durationS });
          expect(fromS).toBeGreaterThanOrEqual(0);
          expect(toS).toBeLessThanOrEqual(durationS);
          expect(toS).toBeGreaterThan(fromS);
        }
        for (let i = 0; i < 40; i++) range = zoomed({ range, durationS }, 2);
        expect(range).toBeNull();
      }),
    );
  });
  it('halves about its middle, and moves by a quarter', () => {
    const half = zoomed({ range: null, durationS: 1000 }, 0.5)!;
    expect(half).toEqual({ fromS: 250, toS: 750 });
    expect(zoomed({ range: half, durationS: 1000 }, 1, 0.25)).toEqual({ fromS: 375, toS: 875 });
  });
  it('a drag either way is the stretch between; a press changes nothing', () => {
    const window = { range: null, durationS: 7200 };
    expect(dragged(window, { from: 1.5, to: 0.5 })).toEqual({ fromS: 1800, toS: 5400 });
    expect(dragged(window, { from: 1, to: 1.001 })).toBeNull();
  });
  it.each([
    [{ fromS: 100, toS: 400 }, 's', '180 s', '180'],
    [{ fromS: 0, toS: 7200 }, 'min', '3.00 min', '3'],
    [{ fromS: 0, toS: 40_000 }, 'h', '0.0500 h', '0.05'],
  ])('tells time by how much is shown: %o in %s', (range, unit, clock, tick) => {
    const scale = timeScale(range, DECIMALS);
    expect([scale.unit, scale.clock(0.05), scale.tick(0.05, unit === 'h' ? 2 : 0)]).toEqual([
      unit,
      clock,
      tick,
    ]);
  });
});

describe('holes of a trace', () => {
  it('break the lines once each, where they are', () => {
    const drawn = withHoles([at(0), at(1), at(3)], [{ fromS: 3600, toS: 10_800 }]);
    expect(drawn.map(({ h, v }) => [h, v])).toEqual([
      [0, 3.3],
      [1, 3.3],
      [2, null],
      [3, 3.3],
    ]);
    expect(withHoles([at(0)], [])).toEqual([at(0)]);
  });
  it('say what flowed in them where there is room', () => {
    const hole = { fromS: 0, toS: 1, ah: 2.5 };
    expect(holeWords(hole, 0.05)).toBe('');
    expect(holeWords(hole, 0.1)).toBe('no readings');
    expect(holeWords(hole, 0.5)).toBe('no readings, 2.500 Ah counted');
    expect(holeWords({ ...hole, ah: null }, 0.5)).toBe('no readings, nothing counted');
  });
  it('are blanks in the file', () => {
    const csv = traceCsv([at(1), { ...at(2), v: null, a: null }], DECIMALS);
    expect(csv.split('\n').slice(1, 3)).toEqual(['3600,3.300,-20.000,,5.0000', '7200,,,,5.0000']);
  });
});
