import { describe, expect, it } from 'vitest';
import {
  type ClaimDraft,
  claimFromDraft,
  draftOf,
  EMPTY_CLAIM,
} from '../features/arrivals/claim-draft';
import { typedNumber } from '@/kit/typed-number';
import { modelNumbers, NEW_MODEL } from '../features/arrivals/model-fields';
import { verdictOf } from '../features/verdicts/verdict-of';
import { roundAxis } from '../kit/chart-style';

describe('numbers as typed', () => {
  it.each([
    ['', null],
    ['  ', null],
    ['3,5', 3.5],
    ['3.5', 3.5],
    ['.5', 0.5],
    ['-20', -20],
  ])('“%s”', (text, value) => expect(typedNumber(text)).toBe(value));
  it.each(['abc', '3 5', '1.2.3', '5 V'])('“%s” is none', (text) =>
    expect(typedNumber(text)).toBeNaN(),
  );
  it('a model’s blank fields stay open', () => {
    expect(modelNumbers({ ...NEW_MODEL, massG: '145', widthMm: 'x' })).toMatchObject({
      massG: 145,
      widthMm: NaN,
      heightMm: null,
    });
  });
});

describe('a claim as typed', () => {
  const item = (value: string, conditions = {}) => ({ value, conditions });
  const draft: ClaimDraft = {
    capacity: item('104000 mAh', { rateIt: '0,2', cutoffV: '2.5', statedAs: 'typical' }),
    acResistance: item('0.48'),
  };
  it('becomes items with their conditions', () => {
    expect(claimFromDraft(draft)).toEqual({
      claim: [
        {
          kind: 'capacity',
          value: 104,
          conditions: { rateIt: 0.2, cutoffV: 2.5, statedAs: 'typical' },
        },
        { kind: 'acResistance', value: 0.48, conditions: {} },
      ],
    });
  });
  it('is empty when nothing is typed', () => {
    expect(claimFromDraft(EMPTY_CLAIM)).toEqual({ claim: [] });
  });
  it('keeps conditions of a capacity that is left to the data sheet, and of nothing else', () => {
    expect(claimFromDraft({ capacity: item('', { cutoffV: '2.8' }) })).toEqual({
      claim: [{ kind: 'capacity', value: null, conditions: { cutoffV: 2.8 } }],
    });
    expect(claimFromDraft({ mass: item('', { tolerancePct: '3' }) })).toEqual({
      problem: 'Mass: expected a value beside its conditions.',
    });
  });
  it.each<[ClaimDraft, RegExp]>([
    [{ capacity: item('much') }, /Capacity: Expected a number in Ah/],
    [{ capacity: item('104 V') }, /Capacity: Expected a number in Ah/],
    [
      { capacity: item('104', { rateIt: 'slow' }) },
      /Capacity: at a rate of: expected a number in It; found “slow”/,
    ],
    [{ mass: item('heavy') }, /Mass: Expected a number in g/],
    [{ disputeWindow: item('soon') }, /Dispute window: expected a number; found “soon”/],
  ])('%j is refused in words', (patch, message) => {
    const result = claimFromDraft({ ...draft, ...patch });
    expect('problem' in result && result.problem).toMatch(message);
  });
  it('keeps worded items as words, and comes back as it was typed', () => {
    const typed: ClaimDraft = {
      ...EMPTY_CLAIM,
      condition: item('new'),
      disputeWindow: item('15', { paysReturnFreight: 'buyer' }),
    };
    const result = claimFromDraft({ ...typed, grade: item(' ') });
    expect(result).toEqual({
      claim: [
        { kind: 'condition', text: 'new', conditions: {} },
        { kind: 'disputeWindow', value: 15, conditions: { paysReturnFreight: 'buyer' } },
      ],
    });
    const stored = ('claim' in result ? result.claim : []).map((claimed) => ({
      value: null,
      text: null,
      conditions: {},
      ...claimed,
    }));
    expect(draftOf(stored)).toEqual(typed);
  });
});

describe('words for where a cell stands', () => {
  const line = { capacityAh: 100, comparable: true, verdict: 'met' as const };
  it.each([
    [line, 'met'],
    [{ ...line, capacityAh: null }, 'open'],
    [{ ...line, comparable: false, verdict: null }, 'notComparable'],
    [{ ...line, verdict: null }, 'open'],
  ])('%j', (given, word) => expect(verdictOf(given)).toBe(word));
});

describe('round axes', () => {
  it('cover the range with round ticks', () => {
    expect(roundAxis(2.5, 3.5, 6)).toEqual({
      domain: [2.4, 3.6],
      ticks: [2.4, 2.6, 2.8, 3, 3.2, 3.4, 3.6],
      decimals: 1,
    });
  });
  it('keep their ends when asked, with ticks inside', () => {
    const { domain, ticks } = roundAxis(0, 6.36, 9, true);
    expect(domain).toEqual([0, 6.36]);
    expect(ticks).toEqual([0, 1, 2, 3, 4, 5, 6]);
  });
});
