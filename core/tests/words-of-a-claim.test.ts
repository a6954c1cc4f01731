import { describe, expect, it } from 'vitest';
import {
  claimsNew,
  impossibleReading,
  POSSIBLE_READINGS,
  READING_PURPOSE_CODES,
  usualPurpose,
} from '../src/arrivals';
import type { ClaimKind } from '../src/arrivals';
import { assessWords, NEW_AT_MOST_MONTHS } from '../src/verdicts/assess-words';

const EVIDENCE = {
  findings: [] as string[],
  produced: null as { from: string; until: string } | null,
  arrivedOn: '2026-03-01' as string | null,
  isInspected: true,
};
const assessed = (kind: ClaimKind, text: string, more: Partial<typeof EVIDENCE> = {}) =>
  assessWords(kind, { ...EVIDENCE, ...more }, { kind, text, value: null, conditions: {} });

describe('a claim in words', () => {
  it('is never met: nothing speaks against it, once somebody looked', () => {
    expect(assessed('grade', 'A')).toEqual({ state: 'nothingAgainst' });
    expect(assessed('condition', 'used')).toEqual({ state: 'nothingAgainst' });
    expect(assessed('grade', 'A', { isInspected: false })).toEqual({
      state: 'waitingFor',
      what: ['the inspection'],
    });
  });

  it.each([
    ['thread', 're-worked terminals'],
    ['weld', 'weld remains'],
    ['ownersMarks', 'marks of a previous owner'],
  ])('a grade is contradicted by %s, and so is new', (code, words) => {
    expect(assessed('grade', 'A', { findings: [code] })).toEqual({
      state: 'contradicted',
      by: [words],
    });
    expect(assessed('condition', 'new', { findings: [code] })).toEqual({
      state: 'contradicted',
      by: [words],
    });
    // What was sold as used may show it.
    expect(assessed('condition', 'used', { findings: [code] })).toEqual({
      state: 'nothingAgainst',
    });
  });

  it('a copied code speaks against anything, also before the inspection', () => {
    const by = ['a code that stands on another cell, too'];
    expect(assessed('condition', 'used', { findings: ['copiedCode'] })).toEqual({
      state: 'contradicted',
      by,
    });
    expect(
      assessed('grade', 'B', { findings: ['copiedCode', 'weld'], isInspected: false }),
    ).toEqual({
      state: 'contradicted',
      by: ['weld remains', ...by],
    });
  });

  it('other findings say nothing of it', () => {
    expect(assessed('grade', 'A', { findings: ['dent', 'leaking', 'constructor'] })).toEqual({
      state: 'nothingAgainst',
    });
  });

  it('new is not older than a year, on the latest day its code can mean', () => {
    const made = (from: string, until: string) => ({ produced: { from, until } });
    expect(NEW_AT_MOST_MONTHS).toBe(12);
    expect(assessed('condition', 'new', made('2025-03-01', '2025-03-01'))).toEqual({
      state: 'nothingAgainst',
    });
    expect(assessed('condition', 'new', made('2024-06-01', '2025-06-30'))).toEqual({
      state: 'nothingAgainst',
    });
    const old = assessed('condition', 'new', made('2023-01-01', '2024-01-31'));
    expect(old).toMatchObject({ state: 'contradicted' });
    expect((old as { by: string[] }).by[0]).toMatch(
      /^its age: 25 months on arrival, at most 12 for new$/,
    );
    // Age says nothing of a grade alone, nor where nobody knows when it came.
    expect(assessed('grade', 'A', made('2020-01-01', '2020-01-31'))).toEqual({
      state: 'nothingAgainst',
    });
    expect(
      assessed('condition', 'new', { ...made('2020-01-01', '2020-01-31'), arrivedOn: null }),
    ).toEqual({ state: 'nothingAgainst' });
  });
});

describe('a condition in the words of a supplier', () => {
  it.each([
    'new',
    'Brand new',
    'unused',
    'never used',
    'New, grade A',
    'fresh from production',
    'new, not used',
  ])('“%s” says new', (words) => expect(claimsNew([words])).toBe(true));
  it.each([
    ...[
      'like new',
      'as-new',
      'as good as new',
      'nearly new',
      'not new',
      'no longer new',
      'not quite new',
    ],
    ...['hardly unused', 'isn’t new', 'used', 'renewed', 'news', '', null, undefined],
  ])('“%s” does not', (words) => expect(claimsNew([words])).toBe(false));
  it('any of several may say it', () => {
    expect(claimsNew(['A', null, 'unused'])).toBe(true);
    expect(claimsNew([])).toBe(false);
  });
});

describe('a claimed production day', () => {
  const on = (from: string, until: string) =>
    assessed('producedAfter', '2025-06-01', { produced: { from, until } });

  it('waits for a code that tells it', () => {
    expect(assessed('producedAfter', '2025-06-01')).toEqual({
      state: 'waitingFor',
      what: ['a code that tells its production day'],
    });
  });

  it('is met from that day on, not met before it, open where the code can mean both', () => {
    expect(on('2025-06-01', '2025-06-01')).toMatchObject({ state: 'met', probability: 1 });
    expect(on('2025-06-01', '2025-06-01').differences).toEqual(['Its code says 2025-06-01.']);
    expect(on('2025-05-31', '2025-05-31')).toMatchObject({ state: 'notMet', probability: 0 });
    expect(on('2015-07-01', '2025-07-01')).toMatchObject({ state: 'tooClose', probability: 0.5 });
    expect(on('2015-07-01', '2025-07-01').differences).toEqual([
      'Its code says 2015-07-01 to 2025-07-01.',
    ]);
  });
});

describe('what a reading can be at all', () => {
  it.each(Object.entries(POSSIBLE_READINGS))(
    '%s: its ends, nothing beyond them',
    (kind, { low, high, unit }) => {
      const asked = (value: number) =>
        impossibleReading(kind as keyof typeof POSSIBLE_READINGS, value);
      expect(asked(low)).toBeNull();
      expect(asked(high)).toBeNull();
      expect(asked(high * 1.001)).toBe(
        `Expected ${low} to ${high} ${unit}; found ${high * 1.001} ${unit}.`,
      );
      expect(asked(low - Math.abs(low) / 1000)).toMatch(/^Expected /);
      expect(asked(NaN)).toMatch(/^Expected /);
      expect(asked(Infinity)).toMatch(/^Expected /);
    },
  );

  it('a reading is of arrival until the first run of its cell', () => {
    expect(usualPurpose(false)).toBe('arrival');
    expect(usualPurpose(true)).toBe('stock');
    expect(READING_PURPOSE_CODES).toEqual(['arrival', 'rest', 'stock', 'set']);
  });
});
