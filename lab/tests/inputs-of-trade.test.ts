import { describe, expect, it } from 'vitest';
import {
  booksInput,
  claimInput,
  claimItemInput,
  disputeInput,
  disputeMove,
  earlierLotInput,
  letterInput,
  lookOf,
  offerInput,
  paperInput,
  restInput,
  restProtocolInput,
} from '../src/inputs';
import { refused, taken } from '../testing/refused';

describe('a claim as it is typed', () => {
  it('each kind once, with its unit', () => {
    const items = [
      { kind: 'capacity', value: 104, conditions: { rateIt: 0.2 } },
      { kind: 'acResistance', value: 0.5 },
    ];
    expect(taken(claimInput, items).map(({ unit }) => unit)).toEqual(['Ah', 'mΩ']);
    expect(refused(claimInput, [items[1], items[1]])).toEqual([
      ': Expected each kind of item once.',
    ]);
  });
  it.each([
    [{ kind: 'acResistance' }, /expected a number/],
    [{ kind: 'acResistance', value: -1 }, /above 0/],
    [{ kind: 'capacity', value: 2e5 }, /expected at most 100000 Ah; found 200000/],
    [{ kind: 'grade' }, /expected words/],
    [{ kind: 'grade', text: '   ' }, /expected words/],
    [
      { kind: 'acResistance', value: 0.5, conditions: { statedAs: 'range', low: 0.6 } },
      /lower end/,
    ],
    [{ kind: 'acResistance', value: 0.5, conditions: { statedAs: 'range' } }, /lower end/],
    [{ kind: 'capacity', value: 100, conditions: { rateIt: 60 } }, /./],
    [{ kind: 'colour', text: 'blue' }, /./],
  ])('%o is refused', (item, words) => expect(refused(claimItemInput, item)[0]).toMatch(words));
  it('a range may be a point; a capacity may be its conditions alone', () => {
    const range = { statedAs: 'range', low: 0.5 };
    expect(
      refused(claimItemInput, { kind: 'acResistance', value: 0.5, conditions: range }),
    ).toEqual([]);
    expect(refused(claimItemInput, { kind: 'capacity', conditions: { cutoffV: 2.5 } })).toEqual([]);
  });
});

describe('rests', () => {
  const REST = { lotId: 1, cellIds: [1], protocol: 'Weeks', fullAt: '2026-11-27T08:00:00.000Z' };
  it('begin at a moment, of cells, by a protocol', () => {
    expect(taken(restInput, REST)).toMatchObject({ fromRun: false, reason: '' });
    expect(refused(restInput, { ...REST, fullAt: '2026-11-27' })).toEqual([
      'fullAt: Expected a day and time.',
    ]);
    expect(refused(restInput, { ...REST, protocol: ' ' })).toEqual([
      'protocol: Expected one of the protocols.',
    ]);
  });

  const LOOK = {
    ...{ dueDays: 28, toleranceDays: 3, keepV: 3.3, keepAs: 'keep' as const, fastLossV: 3.2 },
    otherwise: 'reject' as const,
  };
  const protocol = (looks: unknown[], judges = 'volts') => ({
    name: 'Weeks',
    judges,
    looks,
    reason: 'as tried',
  });
  it('a protocol goes from its looks to an end', () => {
    expect(refused(restProtocolInput, protocol([LOOK]))).toEqual([]);
    expect(refused(restProtocolInput, protocol([{ ...LOOK, fastLossV: 3.3 }]))).toEqual([
      'looks.0.fastLossV: Expected it below the voltage that keeps.',
    ]);
    expect(
      refused(restProtocolInput, protocol([{ ...LOOK, keepV: null, fastLossV: null }])),
    ).toEqual([
      'looks.0.keepV: Expected the voltage a cell keeps, or a protocol that goes by the lot.',
    ]);
    expect(
      refused(restProtocolInput, protocol([{ ...LOOK, keepV: null, fastLossV: null }], 'lot')),
    ).toEqual([]);
    expect(refused(restProtocolInput, protocol([LOOK, LOOK]))).toEqual([
      'looks.0.otherwise: Expected “looked at once more” before a second look.',
    ]);
    const second = { ...LOOK, otherwise: 'secondLook' };
    expect(refused(restProtocolInput, protocol([second, LOOK]))).toEqual([]);
    expect(refused(restProtocolInput, protocol([second]))).toEqual([
      'looks.0.otherwise: Expected an end: there is no look after this one.',
    ]);
  });
  it('a look is kept as steps from the highest voltage down', () => {
    expect(lookOf(LOOK)).toEqual({
      dueDays: 28,
      preferDays: null,
      toleranceDays: 3,
      steps: [
        { atLeastV: 3.3, outcome: 'keep' },
        { atLeastV: 3.2, outcome: 'fastLoss' },
      ],
      otherwise: 'reject',
    });
    expect(lookOf({ ...LOOK, keepV: null, fastLossV: null }).steps).toEqual([]);
  });
});

describe('money, disputes and offers', () => {
  const BOOKS = { lotId: 1, version: 0, linePct: 95, gradePrices: { First: 12.345 } };
  it('amounts are kept in whole cents, nothing typed is nothing spent', () => {
    expect(taken(booksInput, BOOKS)).toMatchObject({
      gradePrices: { First: 1235 },
      ...{
        minutes: 0,
        perMinute: 0,
        refund: null,
        replacement: null,
        rate: null,
        asksTesting: false,
      },
    });
    expect(taken(booksInput, { ...BOOKS, perMinute: 0.75, minutes: 12.4 })).toMatchObject({
      perMinute: 75,
      minutes: 12,
    });
  });
  it('a rate has its day; a line is a share of the claim', () => {
    expect(refused(booksInput, { ...BOOKS, rate: 0.9 })).toEqual([
      'rateOn: Expected the day of the rate.',
    ]);
    expect(refused(booksInput, { ...BOOKS, linePct: 121 })).toEqual([
      'linePct: Expected 1 to 120 %.',
    ]);
    expect(refused(booksInput, { ...BOOKS, refund: -1 })).toEqual([
      'refund: Expected an amount of 0 or more.',
    ]);
    expect(refused(booksInput, { ...BOOKS, refund: 1e9 })).toEqual([
      'refund: Expected at most 40 000 000.',
    ]);
  });

  it('a dispute asks for something, an amount may be open', () => {
    const dispute = { lotId: 1, remedy: 'partialRefund', ask: 1360.5, language: 'de' };
    expect(taken(disputeInput, dispute)).toMatchObject({ ask: 136_050 });
    expect(refused(disputeInput, { ...dispute, remedy: 'revenge' })).toHaveLength(1);
    expect(refused(disputeInput, { ...dispute, ask: NaN })).toEqual(['ask: Expected an amount.']);
    const move = { id: 1, version: 2, stage: 'answered', day: '2026-11-27', text: 'no' };
    expect(refused(disputeMove, move)).toEqual(['text: Say what happened, in a few words.']);
    expect(taken(disputeMove, { ...move, text: 'they refuse' }).amount).toBeNull();
  });

  const LETTER = { id: 1, version: 1, title: 'Claim' };
  const doc = (...content: unknown[]) => ({ ...LETTER, body: { type: 'doc', content } });
  it('a letter holds what the editor makes, nothing else, and not without end', () => {
    const text = (words: string) => ({
      type: 'paragraph',
      content: [{ type: 'text', text: words }],
    });
    expect(refused(letterInput, doc(text('Dear all')))).toEqual([]);
    expect(refused(letterInput, doc({ type: 'script' }))).not.toEqual([]);
    expect(
      refused(letterInput, doc({ type: 'text', text: 'x', marks: [{ type: 'link' }] })),
    ).not.toEqual([]);
    const long = doc(...Array.from({ length: 12 }, () => text('x'.repeat(19_000))));
    expect(refused(letterInput, long)).toEqual([
      'body: Expected a letter of at most 200 000 characters.',
    ]);
    expect(refused(letterInput, { ...doc(text('x')), title: ' ' })).toEqual([
      'title: Expected a title.',
    ]);
  });

  it('a paper has a kind and something in it', () => {
    const paper = {
      disputeId: 1,
      name: 'answer.pdf',
      type: 'application/pdf',
      bytes: Uint8Array.of(1),
    };
    expect(refused(paperInput, paper)).toEqual([]);
    expect(refused(paperInput, { ...paper, bytes: new Uint8Array() })).toHaveLength(1);
    expect(refused(paperInput, { ...paper, type: 'text/html\r\nX: y' })).toEqual([
      'type: Expected a kind of file.',
    ]);
    expect(refused(paperInput, { ...paper, bytes: [1] })).toHaveLength(1);
  });

  const EARLIER = {
    ...{ supplierId: 1, title: 'Before', model: 'P', arrivedOn: '2024-05-01' },
    ...{ cells: 10, judged: 5, met: 5 },
  };
  it('of an earlier lot no more are judged than came, nor more met than were judged', () => {
    expect(taken(earlierLotInput, EARLIER)).toMatchObject({
      dead: null,
      landed: null,
      disputeOutcome: null,
    });
    expect(refused(earlierLotInput, { ...EARLIER, judged: 11 })).toEqual([
      'judged: Expected at most the 10 cells.',
    ]);
    expect(refused(earlierLotInput, { ...EARLIER, met: 6 })).toEqual([
      'met: Expected at most the 5 that were judged.',
    ]);
    expect(refused(earlierLotInput, { ...EARLIER, claimedKwh: 10, goodKwh: 15.1 })).toHaveLength(1);
    expect(refused(earlierLotInput, { ...EARLIER, claimedKwh: 10, goodKwh: 15 })).toEqual([]);
  });

  it('an offer says at least what it is of, how much, and how many', () => {
    const offer = { chemistry: 'LFP', claimedAh: 104, cells: 240 };
    expect(taken(offerInput, { ...offer, price: 1234.5 })).toMatchObject({
      ...{ text: '', supplierId: null, sizeCode: null, massG: null, price: 123_450, beside: null },
    });
    expect(refused(offerInput, { ...offer, claimedAh: 1e9 })).toEqual([
      'claimedAh: Expected 0.001 to 100 000 Ah.',
    ]);
    expect(refused(offerInput, { ...offer, chemistry: 'unobtainium' })).toEqual([
      'chemistry: Expected the chemistry.',
    ]);
    expect(refused(offerInput, { ...offer, cells: 0 })).toEqual(['cells: Expected 1 or more.']);
  });
});
