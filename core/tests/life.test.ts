import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  JUST_ARRIVED,
  LIFE_ORDER,
  type LifeAct,
  type LifeFacts,
  lifeOf,
  lifeState,
} from '../src/stock';

const FACTS = Object.keys(JUST_ARRIVED) as (keyof LifeFacts)[];
const facts = fc.record(
  Object.fromEntries(FACTS.map((fact) => [fact, fc.boolean()])) as Record<
    keyof LifeFacts,
    fc.Arbitrary<boolean>
  >,
);
const act = fc.record({
  at: fc.integer({ min: 0, max: 50 }),
  by: fc.constantFrom('Ada', 'Ben', null),
  changes: fc
    .tuple(fc.constantFrom(...FACTS), fc.boolean())
    .map(([fact, value]) => ({ [fact]: value }) as Partial<LifeFacts>),
});

describe('a cell’s life', () => {
  it('is told in one state at a time, with who and when', () => {
    const acts: LifeAct[] = [
      { at: 1, by: 'Ada', changes: {} },
      { at: 2, by: 'Ben', changes: { setApart: true } },
      { at: 3, by: 'Ada', changes: { setApart: false, ready: true } },
      { at: 4, by: 'Ben', changes: { onBench: true } },
      { at: 9, by: 'Ben', changes: { onBench: false } },
      { at: 10, by: 'Ben', changes: { graded: true } },
    ];
    expect(lifeOf(acts)).toEqual([
      { state: 'arrived', since: 1, by: 'Ada' },
      { state: 'quarantine', since: 2, by: 'Ben' },
      { state: 'ready', since: 3, by: 'Ada' },
      { state: 'onBench', since: 4, by: 'Ben' },
      { state: 'ready', since: 9, by: 'Ben' },
      { state: 'graded', since: 10, by: 'Ben' },
    ]);
  });
  it('a graded cell that is tested once more is on the bench meanwhile, and graded after it', () => {
    const graded = { ...JUST_ARRIVED, ready: true, graded: true };
    expect(lifeState(graded)).toBe('graded');
    expect(lifeState({ ...graded, onBench: true })).toBe('onBench');
  });
  it('what can hurt someone outweighs all that was planned with it, short of its leaving', () => {
    fc.assert(
      fc.property(facts, (holds) => {
        const state = lifeState({ ...holds, setApart: true });
        expect(['quarantine', 'shipped', 'scrapped']).toContain(state);
      }),
    );
  });
  it('every state can be reached, and by its own fact', () => {
    const reached = new Set(FACTS.map((fact) => lifeState({ ...JUST_ARRIVED, [fact]: true })));
    reached.add(lifeState(JUST_ARRIVED));
    expect([...reached].sort()).toEqual([...LIFE_ORDER].sort());
  });
  it('ends in the state its facts give now, in whatever order its acts are told', () => {
    fc.assert(
      fc.property(fc.uniqueArray(act, { selector: ({ at }) => at, minLength: 1 }), (acts) => {
        const life = lifeOf(acts);
        const now = [...acts]
          .sort((a, b) => a.at - b.at)
          .reduce((sum, { changes }) => ({ ...sum, ...changes }), JUST_ARRIVED);
        expect(life[life.length - 1]!.state).toBe(lifeState(now));
        expect(lifeOf([...acts].reverse())).toEqual(life);
        for (const [i, stretch] of life.entries())
          if (i > 0) {
            expect(stretch.since).toBeGreaterThan(life[i - 1]!.since);
            expect(stretch.state).not.toBe(life[i - 1]!.state);
          }
      }),
    );
  });
});
