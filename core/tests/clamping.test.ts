import { describe, expect, it } from 'vitest';
import {
  type Clamping,
  CLAMPINGS,
  clampingDifference,
  clampingOfRun,
  clampingOfSheet,
} from '../src/chemistry';

const stated = { format: 'prism', clampForceN: 2000 } as const;
const silent = { format: 'prism', clampForceN: null } as const;
const round = { format: 'cylinder', clampForceN: 50 } as const;

describe('how a cell is held', () => {
  it.each<[Clamping | null, Parameters<typeof clampingOfRun>[1], Clamping | null]>([
    [null, stated, 'fixture'],
    ['free', stated, 'free'],
    [null, silent, 'free'],
    ['fixture', silent, 'fixture'],
    ['fixture', { ...silent, format: 'pouch' }, 'fixture'],
    ['fixture', round, null],
    [null, round, null],
  ])('a recipe saying %s on %o: %s', (recipe, model, held) => {
    expect(clampingOfRun(recipe, model)).toBe(held);
  });

  it('a data sheet means its figures clamped where it states a force', () => {
    expect([stated, silent, round].map(clampingOfSheet)).toEqual(['fixture', null, null]);
  });

  it('a difference is told without a number, and none where nothing is claimed', () => {
    for (const done of [...CLAMPINGS, null]) expect(clampingDifference(null, done)).toBeNull();
    for (const held of CLAMPINGS) {
      expect(clampingDifference(held, held)).toBeNull();
      expect(clampingDifference(held, null)).toContain('not recorded');
    }
    const told = clampingDifference('fixture', 'free')!;
    expect(told).toContain('tested free');
    expect(told).not.toMatch(/\d/);
    expect(clampingDifference('free', 'fixture')).toContain('held free, tested in a fixture');
  });
});
