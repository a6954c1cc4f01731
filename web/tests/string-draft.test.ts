import { describe, expect, it } from 'vitest';
import {
  cellNumbersOf,
  draftOf,
  FRESH_STEP,
  FRESH_TEST,
  judgeStep,
  numberOf,
  numbersOf,
  storedOf,
} from '../features/bench/string-draft';

const step = { ...FRESH_STEP, lowV: '3,280 3,281', highV: '3.262\n3.26', jointC: '24 - 25,5' };

describe('a load test as it is typed', () => {
  it('reads decimal commas and points, blanks and lines, and a dash for not read', () => {
    expect(numbersOf(' 3,280 3.281\n3;4 ')).toEqual([3.28, 3.281, 3, 4]);
    expect(numbersOf('24 - 25,5')).toEqual([24, NaN, 25.5]);
    expect(numbersOf('')).toEqual([]);
    expect(numberOf(' 0,5 ')).toBe(0.5);
    expect(numberOf('')).toBeNaN();
    expect(cellNumbersOf('B-0101, B-0102\nB-0103;B-0104')).toHaveLength(4);
  });
  it('says nothing before anything is typed, and what is missing after', () => {
    expect(judgeStep(FRESH_STEP)).toEqual({ step: null, problem: null });
    expect(judgeStep({ ...step, highV: '3.262' }).problem).toContain('as many voltages');
    expect(judgeStep({ ...step, highA: 'sixty' }).problem).toContain('second load');
    expect(judgeStep({ ...step, lowV: '3,28 x' }).problem).toContain('cell 2');
    expect(judgeStep(step).step!.cells).toHaveLength(2);
  });
  it('is stored without states of charge nobody read, and with no value where none was typed', () => {
    const stored = storedOf({ ...FRESH_TEST, title: 'A', steps: [step, FRESH_STEP] });
    expect(stored.steps).toHaveLength(1);
    expect(stored.steps[0]!.jointC).toEqual([24, null, 25.5]);
    expect(stored).toMatchObject({ torqueNm: null, packAh: null, cableMm2: 16, cableM: 1.5 });
  });
  it('names the field that holds no number', () => {
    expect(() => storedOf({ ...FRESH_TEST, torqueNm: 'tight' })).toThrow(
      'Torque: expected a number; found “tight”.',
    );
  });
  it('comes back from the store as it was typed', () => {
    const stored = storedOf({ ...FRESH_TEST, title: 'A', cells: 'B-1 B-2', steps: [step] });
    const again = draftOf({
      row: { ...stored, title: 'A' },
      cells: [
        { place: 1, number: 'B-1', capacityAh: null },
        { place: 2, number: 'B-2', capacityAh: null },
      ],
    } as never);
    expect(storedOf(again)).toEqual(stored);
    expect(again.steps[0]).toMatchObject({ lowV: '3.280 3.281', jointC: '24.0 - 25.5' });
  });
});
