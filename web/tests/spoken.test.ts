import { REST_OUTCOMES, SHIPPED_PROTOCOLS } from '@dusk-tally/core/resting';
import type { ShelfLine } from '@dusk-tally/lab/resting';
import { describe, expect, it } from 'vitest';
import { isStep, STEP_NAMES } from '../features/arrivals/step-words';
import { holesOf } from '../features/evidence/holes-of';
import { SETTING_NAMES, SETTING_SAYS, type SettingName } from '../features/people/setting-words';
import { protocolWords } from '../features/resting/protocol-words';
import { daysWords, grouped, groupOf, SHELF_GROUPS } from '../features/resting/shelf-groups';
import { causeWords } from '../features/verdicts/cause-words';

describe('the shelf', () => {
  const line = (cell: string, state: 'early' | 'due' | 'late', ended = false) =>
    ({ cell, state, endedAt: ended ? new Date(0) : null }) as ShelfLine;

  it('shows what is late first, and what is over last, each in the order it came', () => {
    const lines = [
      line('B-1', 'due'),
      line('B-2', 'late', true),
      line('B-3', 'late'),
      line('B-4', 'early'),
      line('B-5', 'late'),
    ];
    expect(grouped(lines).map(([group, own]) => [group, own.map(({ cell }) => cell)])).toEqual([
      ['late', ['B-3', 'B-5']],
      ['due', ['B-1']],
      ['early', ['B-4']],
      ['done', ['B-2']],
    ]);
  });
  it('leaves out groups without any, and loses no line', () => {
    expect(grouped([])).toEqual([]);
    expect(grouped([line('B-1', 'early')]).map(([group]) => group)).toEqual(['early']);
    const all = SHELF_GROUPS.flatMap(() => [line('x', 'due'), line('y', 'late', true)]);
    expect(grouped(all).flatMap(([, own]) => own)).toHaveLength(all.length);
  });
  it('what is over is over, however late it was read', () =>
    expect(groupOf(line('B-1', 'late', true))).toBe('done'));
  it('says days as they are spoken of', () => {
    const from = new Date('2026-03-28T12:00:00Z');
    expect(daysWords(from, new Date('2026-03-31T16:48:00Z'))).toBe('3.2 d');
    expect(daysWords(from, from)).toBe('0.0 d');
  });
  it('a protocol in a line names every look, its steps from the highest down, and what is asked', () => {
    for (const protocol of SHIPPED_PROTOCOLS) {
      const words = protocolWords(protocol);
      for (const { dueDays, steps, otherwise } of protocol.looks) {
        expect(words).toContain(`after ${dueDays} days`);
        if (steps.length === 0) continue;
        const volts = [...words.matchAll(/from (\d\.\d\d) V/g)].map(([, v]) => Number(v));
        expect(volts.length).toBeGreaterThan(0);
        expect(words).toContain(`below that ${REST_OUTCOMES[otherwise].words}`);
      }
      expect(words.includes('by the lot alone')).toBe(protocol.judges === 'lot');
      expect(words.includes('capacity kept')).toBe(protocol.leastRetention !== null);
    }
    const steps = [
      { atLeastV: 4.05, outcome: 'fastLoss' as const },
      { atLeastV: 4.13, outcome: 'keep' as const },
    ];
    const look = { dueDays: 30, preferDays: null, toleranceDays: 2, steps };
    expect(
      protocolWords({
        name: 'Ours',
        version: 1,
        judges: 'volts',
        firstHours: 1,
        looks: [{ ...look, otherwise: 'reject' }],
        leastRetention: 0.95,
      }),
    ).toBe(
      'after 30 days: keeps its charge from 4.13 V, fast loss from 4.05 V, below that rejected, then discharged uncharged: at least 95 % of its capacity kept; who loses faster than the lot is named',
    );
  });
});

describe('why a lot moved without an act on it', () => {
  it('names rules that changed before results of others', () => {
    expect(causeWords({ causes: ['guardFactor', 'cellModel'], fromLots: ['L-002'] })).toBe(
      'Changed: the lab’s guard factor, the data sheet of a cell model.',
    );
  });
  it('else whose results they were, as far as that is known', () => {
    expect(causeWords({ causes: [], fromLots: ['L-002', 'L-005'] })).toBe(
      'Results of L-002, L-005 changed what is known of the channels they share.',
    );
    expect(causeWords({ causes: [], fromLots: [] })).toMatch(/^Results of other lots changed/);
  });
});

describe('settings of the lab', () => {
  it('each says what its change does, for none, one and many lots', () => {
    for (const name of Object.keys(SETTING_NAMES) as SettingName[])
      for (const lots of [0, 1, 7]) expect(SETTING_SAYS[name](lots)).toMatch(/^[A-Z].{20,}\.$/);
    const guard = (before: unknown, after: unknown) =>
      SETTING_SAYS.guardFactor(3, { before, after });
    expect(guard(1, 2)).toContain('a wider guard band more results are too close');
    expect(guard(1, '0,5')).toContain('a narrower guard band fewer results are too close');
    expect(guard(1, 0)).toContain('no guard band fewer results are too close');
    expect(SETTING_SAYS.guardFactor(1)).toMatch(/^The one lot is judged anew/);
    expect(SETTING_SAYS.guardFactor(7)).toMatch(/^All 7 lots are judged anew/);
  });
});

describe('steps of receiving in an address', () => {
  it('are those there are, and nothing else', () => {
    expect(Object.keys(STEP_NAMES).every(isStep)).toBe(true);
    for (const text of ['', 'Box', 'toString', 'readings2', '__proto__'])
      expect(isStep(text), text).toBe(false);
  });
});

describe('holes of a run', () => {
  const section = (holes?: { fromS: number; toS: number; ah: number | null }[]) => ({
    kind: 'discharge' as const,
    fromIndex: 0,
    toIndex: 9,
    fromS: 0,
    toS: 900,
    ah: 5,
    ...(holes && { holes }),
  });
  it('are drawn once, those under load with what was counted in them', () => {
    const counted = { fromS: 300, toS: 400, ah: 0.5 };
    const bare = { fromS: 50, toS: 90 };
    expect(
      holesOf({
        sections: [section([counted]), section()],
        holes: [{ fromS: 300, toS: 400 }, bare],
      }),
    ).toEqual([bare, counted]);
    expect(holesOf({ sections: [] })).toEqual([]);
  });
});
