import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Leg, Span } from '../src/bench/planner/problem';
import { Timeline } from '../src/bench/planner/timeline';

/** Stretches of whole seconds that do not touch, ascending. */
const spans = (most: number) =>
  fc
    .uniqueArray(fc.integer({ min: 0, max: 60 }), { maxLength: 2 * most })
    .map((ends) => [...ends].sort((a, b) => a - b))
    .map((ends) =>
      ends.flatMap((fromS, i) =>
        i % 2 === 0 && i + 1 < ends.length ? [{ fromS, toS: ends[i + 1]! }] : [],
      ),
    );
const legOf = (attendedShare: number): Leg => ({ durationS: [], attendedShare, restBeforeS: 0 });

/** The same by looking at every second. */
function earliestByLooking(
  taken: readonly Span[],
  attended: readonly Span[],
  {
    durationS,
    watchedS,
    readyS,
    givenUpS,
  }: Record<'durationS' | 'watchedS' | 'readyS' | 'givenUpS', number>,
): number {
  for (let at = readyS; at < givenUpS && at <= 200; at++) {
    const isFree = taken.every(({ fromS, toS }) => toS <= at || fromS >= at + durationS);
    const isWatched = attended.some(({ fromS, toS }) => fromS <= at && at + watchedS <= toS);
    if (isFree && isWatched) return at;
  }
  return Infinity;
}

describe('the first place for a leg on a channel', () => {
  it('is the first second at which it fits, whatever is taken and whoever is there', () => {
    fc.assert(
      fc.property(
        spans(5),
        spans(4),
        fc.integer({ min: 1, max: 12 }),
        fc.constantFrom(0, 0.5, 1),
        fc.integer({ min: 0, max: 50 }),
        fc.constantFrom(30, Infinity),
        (taken, attended, half, share, readyS, givenUpS) => {
          const durationS = 2 * half;
          const found = new Timeline(taken).earliest(legOf(share), durationS, readyS, {
            attended,
            givenUpS,
          });
          expect(found).toBe(
            earliestByLooking(taken, attended, {
              durationS,
              watchedS: share * durationS,
              readyS,
              givenUpS,
            }),
          );
        },
      ),
      { numRuns: 2000 },
    );
  });

  it('what is taken later is kept in order, whatever the order it was taken in', () => {
    const attended = [{ fromS: 0, toS: 1000 }];
    const found = (timeline: Timeline) =>
      timeline.earliest(legOf(0), 10, 0, { attended, givenUpS: Infinity });
    const timeline = new Timeline([{ fromS: 40, toS: 60 }]);
    timeline.take(0, 20);
    expect(found(timeline)).toBe(20);
    timeline.take(25, 40);
    expect(found(timeline)).toBe(60);
    timeline.take(60, 995);
    // It may end after everybody has gone, but must be connected while somebody is there.
    expect(found(timeline)).toBe(995);
  });

  it('is nowhere where nobody comes any more, or too late', () => {
    const timeline = new Timeline([]);
    const attended = [{ fromS: 10, toS: 20 }];
    const found = (share: number, durationS: number, readyS: number, givenUpS = Infinity) =>
      timeline.earliest(legOf(share), durationS, readyS, { attended, givenUpS });
    expect(found(0, 100, 0)).toBe(10);
    expect(found(1, 10, 0)).toBe(10);
    expect(found(1, 11, 0)).toBe(Infinity);
    expect(found(0, 5, 21)).toBe(Infinity);
    expect(found(0, 5, 0, 10)).toBe(Infinity);
  });
});
