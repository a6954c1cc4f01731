import { describe, expect, it } from 'vitest';
import { type Derivation, engineOf, inOrder, Origin } from '../src/derived';
import { DERIVATIONS } from '../src/open-lab';
import { CHANGE_KINDS, type Change, type Lab } from '../src/shared';

const derivation = (
  name: string,
  reads: Derivation['reads'],
  makes: Derivation['makes'],
  refresh: Derivation['refresh'] = () => Promise.resolve([]),
): Derivation => ({ name, reads, makes, refresh });

describe('what depends on what', () => {
  it('stands in the order of the work, whatever the order it is declared in', () => {
    const names = (list: readonly Derivation[]) => inOrder(list).map(({ name }) => name);
    const order = names(DERIVATIONS);
    expect(names([...DERIVATIONS].reverse())).toHaveLength(order.length);
    for (const list of [DERIVATIONS, [...DERIVATIONS].reverse()]) {
      const at = (name: string) => names(list).indexOf(name);
      expect(at('arrivals')).toBeLessThan(at('judged cells'));
      expect(at('figures of runs')).toBeLessThan(at('judged cells'));
      expect(at('judged cells')).toBeLessThan(at('channels and models'));
    }
  });

  it('every kind of change is read by something, and everything made is read or shown', () => {
    const read = new Set(DERIVATIONS.flatMap(({ reads }) => reads));
    expect(CHANGE_KINDS.filter((kind) => !read.has(kind))).toEqual([]);
  });

  it('going in circles is refused by name', () => {
    const circle = [
      derivation('a', ['holds'], ['arrivals']),
      derivation('b', ['arrivals'], ['holds']),
    ];
    expect(() => inOrder(circle)).toThrow(/a, b go in circles/);
  });

  it('each is made new once for all changes, after what it reads; what leads back comes to rest', async () => {
    const calls: string[] = [];
    let rounds = 0;
    const logged = (name: string, made: Change[] = []): Derivation['refresh'] => {
      return (_lab, touched) => {
        calls.push(
          `${name} ${touched.map(({ lotId, cellIds }) => `${lotId}:${cellIds?.join('+') ?? 'all'}`).join(' ')}`,
        );
        return Promise.resolve(made);
      };
    };
    const derive = engineOf([
      derivation('judge', ['readings', 'arrivals', 'channelFit'], ['ruleHolds'], (...all) => {
        void logged('judge')(...all);
        // Two rounds until nothing is held anew.
        return Promise.resolve(rounds++ < 2 ? [{ what: 'ruleHolds', lotId: 1, cellIds: [4] }] : []);
      }),
      derivation(
        'fit',
        ['ruleHolds'],
        ['channelFit'],
        logged('fit', [{ what: 'channelFit', lotId: 2 }]),
      ),
      derivation(
        'arrive',
        ['readings'],
        ['arrivals'],
        logged('arrive', [{ what: 'arrivals', lotId: 1, cellIds: [5] }]),
      ),
    ]);
    await derive(
      {} as Lab,
      [
        { what: 'readings', lotId: 1, cellIds: [4] },
        { what: 'readings', lotId: 1, cellIds: [4, 6] },
      ],
      undefined as never,
    );
    expect(calls).toEqual([
      'arrive 1:4+6',
      'judge 1:4+6+5',
      'fit 1:4',
      'judge 2:all',
      'fit 1:4',
      'judge 2:all',
    ]);
  });
});

describe('what an act sets going', () => {
  const at = (state: string, value: number | null = null) => ({ state, value });
  const origin = () => new Origin([{ what: 'runs', lotId: 2 }]);
  it('is about the lots it names; a rule is about none', () => {
    expect(origin().isAbout(2)).toBe(true);
    expect(origin().isAbout(1)).toBe(false);
    expect(new Origin([{ what: 'guardFactor' }]).isAbout(2)).toBe(false);
  });
  it('over several passes the first and the last standing count; what came back did not move', () => {
    const act = origin();
    const capacity = (cellId: number, before: object, after: object) =>
      act.note(1, { cellId, item: 'capacity', before, after } as never);
    capacity(7, at('met', 6.1), at('held', 6.1));
    capacity(7, at('held', 6.1), at('tooClose', 6));
    capacity(8, at('met', 6.1), at('met', 6.2));
    capacity(8, at('met', 6.2), at('met', 6.1));
    expect(act.movedLots()).toEqual(
      new Map([
        [1, [{ cellId: 7, item: 'capacity', before: at('met', 6.1), after: at('tooClose', 6) }]],
      ]),
    );
    expect(origin().movedLots().size).toBe(0);
  });
});
