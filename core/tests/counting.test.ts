import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type CandidateResult, countingResult } from '../src/verdicts/counting';

const result = (more: Partial<CandidateResult> = {}): CandidateResult => ({
  order: 1,
  value: 100,
  bound: 'exact',
  held: false,
  comparable: true,
  typed: false,
  ...more,
});
const any: fc.Arbitrary<CandidateResult> = fc.record({
  order: fc.integer({ min: 1, max: 1000 }),
  value: fc.integer({ min: 1, max: 200 }),
  bound: fc.constantFrom('exact', 'atLeast', 'atMost'),
  held: fc.boolean(),
  comparable: fc.boolean(),
  typed: fc.boolean(),
});
const anyResults = fc.uniqueArray(any, { maxLength: 8, selector: ({ order }) => order });

describe('which result of a cell counts', () => {
  it('is none where none is free', () => {
    expect(countingResult([])).toBeNull();
    expect(countingResult([result({ held: true }), result({ held: true, order: 2 })])).toBeNull();
  });

  it('is the newest exact one, in whatever order they are told', () => {
    expect(countingResult([result({ order: 5 }), result({ order: 9 }), result({ order: 7 })])).toBe(
      1,
    );
  });

  it.each([
    ['a bound', result({ bound: 'atLeast', value: 180, order: 9 })],
    ['what cannot be compared', result({ comparable: false, order: 9 })],
    ['what was typed', result({ typed: true, order: 9 })],
    ['what is held', result({ held: true, order: 9 })],
  ])('is not %s, however new, where a plain result stands', (_, other) => {
    expect(countingResult([other, result()])).toBe(1);
    expect(countingResult([result(), other])).toBe(0);
  });

  it('a log that says at least goes before an exact number nobody watched', () => {
    expect(countingResult([result({ typed: true }), result({ bound: 'atLeast' })])).toBe(1);
  });

  it('of bounds alone the one that says most', () => {
    const atLeast = (value: number, order: number) => result({ bound: 'atLeast', value, order });
    expect(countingResult([atLeast(80, 1), atLeast(95, 2), atLeast(90, 3)])).toBe(1);
    const atMost = (value: number, order: number) => result({ bound: 'atMost', value, order });
    expect(countingResult([atMost(80, 1), atMost(95, 2), atMost(90, 3)])).toBe(0);
  });

  it('bounds of both directions say different things: the newer one counts', () => {
    const low = result({ bound: 'atLeast', value: 80, order: 1 });
    const high = result({ bound: 'atMost', value: 95, order: 2 });
    expect(countingResult([low, high])).toBe(1);
    expect(countingResult([{ ...low, order: 3 }, high])).toBe(0);
  });

  it('does not depend on the order it is told in, and is free', () => {
    fc.assert(
      fc.property(anyResults, (results) => {
        const at = countingResult(results);
        const backwards = [...results].reverse();
        const other = countingResult(backwards);
        if (at === null) {
          expect(other).toBeNull();
          expect(results.every(({ held }) => held)).toBe(true);
          return;
        }
        expect(results[at]!.held).toBe(false);
        // Bounds of one value and rank say the same.
        const told = ({ value, bound, comparable, typed }: CandidateResult) => ({
          ...(bound === 'exact' ? {} : { value }),
          bound,
          comparable,
          typed,
        });
        const mixed = new Set(results.map(({ bound }) => bound));
        if (!(mixed.has('atLeast') && mixed.has('atMost')))
          expect(told(backwards[other!]!)).toEqual(told(results[at]!));
      }),
    );
  });

  it('what is held changes nothing', () => {
    fc.assert(
      fc.property(anyResults, any, (results, more) => {
        const at = countingResult(results);
        expect(countingResult([...results, { ...more, held: true }])).toBe(at);
      }),
    );
  });
});
