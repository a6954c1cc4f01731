import type { CellLine } from '@dusk-tally/lab/verdicts';
import { describe, expect, it } from 'vitest';
import { packLines, unpackLines } from '@/features/verdicts/packed-lines';

const line = (id: number): CellLine => ({
  id,
  number: `B-${String(id).padStart(4, '0')}`,
  label: id % 2 ? null : `mark “${id}”`,
  life: id % 2 ? 'ready' : 'graded',
  capacityAh: id % 3 ? 104 + id / 1000 : null,
  capacityU: 0.3,
  bound: 'exact',
  capacityRawAh: 103,
  capacityRawFigureId: 7,
  corrections:
    id % 3 ? [{ kind: 'rate', factor: 1.01, relativeUncertainty: 0.01, text: 'so' }] : [],
  held: null,
  holds: [],
  comparable: true,
  verdict: 'met',
  probability: 0.99,
  acMohm: 0.41,
  acU: null,
  acBound: null,
  against: [],
  acVerdict: null,
  ocvV: 3.291,
  stateOfHealth: 1.01,
  grade: 'Second',
  reasons: ['Not First yet: waiting.'],
  waitingFor: id % 2 ? [] : ['a look'],
  differences: [],
  capacityFigureId: 8,
  acFigureId: null,
});

describe('lines packed for the browser', () => {
  it('come back as they went', () => {
    const lines = Array.from({ length: 50 }, (_, i) => line(i));
    expect(unpackLines(packLines(lines))).toEqual(lines);
    expect(unpackLines(packLines([]))).toEqual([]);
  });
  it('words that many cells share travel once', () => {
    const lines = Array.from({ length: 1000 }, (_, i) => line(i));
    const { text } = packLines(lines);
    expect(text.match(/Not First yet/g)).toHaveLength(1);
    expect(text.length).toBeLessThan(JSON.stringify(lines).length / 2);
  });
});
