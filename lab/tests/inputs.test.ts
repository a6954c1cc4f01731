import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import {
  ambientInput,
  benchSettingsInput,
  booksInput,
  channelLimits,
  channelWiring,
  claimInput,
  claimItemInput,
  dayInput,
  dayOrNone,
  disputeInput,
  disputeMove,
  earlierLotInput,
  jobChange,
  jobsInput,
  letterInput,
  lookOf,
  offerInput,
  paperInput,
  recipeInput,
  restInput,
  restProtocolInput,
  tokenInput,
} from '../src/inputs';

/** What is refused in an input: where, and in which words; empty where it is taken. */
function refused(schema: z.ZodType, input: unknown): string[] {
  const { success, error } = schema.safeParse(input);
  return success ? [] : error.issues.map(({ path, message }) => `${path.join('.')}: ${message}`);
}
const taken = <T>(schema: z.ZodType<T>, input: unknown): T => schema.parse(input);

describe('a day', () => {
  it.each([
    '2026-02-30',
    '2026-13-01',
    '2025-02-29',
    '26-01-01',
    '2026-1-1',
    '',
    'today',
    '2026-01-01T00:00',
  ])('“%s” is none', (text) =>
    expect(refused(dayInput, text)).toEqual([': Expected a day, such as 2026-11-27.']),
  );
  it.each(['0001-01-01', '1989-12-31', '2100-01-01', '9999-12-31'])(
    '%s is none of a lab',
    (text) => {
      expect(refused(dayInput, text)).toEqual([': Expected a day from 1990 to 2099.']);
    },
  );
  it('every day of these years is one, and nothing is none', () => {
    fc.assert(
      fc.property(
        fc.date({ min: new Date('1990-01-01'), max: new Date('2099-12-31'), noInvalidDate: true }),
        (at) => {
          const day = at.toISOString().slice(0, 10);
          expect(taken(dayInput, day)).toBe(day);
        },
      ),
    );
    expect(taken(dayOrNone, undefined)).toBeNull();
    expect(taken(dayOrNone, null)).toBeNull();
  });

  const MOVE = { id: 1, version: 1, stage: 'sent', text: 'by post', day: '2026-02-30' };
  const BOOKS = {
    lotId: 1,
    version: 0,
    linePct: 95,
    gradePrices: {},
    rate: 0.9,
    rateOn: '2026-02-30',
  };
  const LOT = {
    ...{ supplierId: 1, title: 'Before', model: 'P', arrivedOn: '2026-02-30' },
    ...{ cells: 10, judged: 5, met: 4 },
  };
  it.each([
    ['a move of a dispute', disputeMove, MOVE, 'day'],
    ['the books', booksInput, BOOKS, 'rateOn'],
    ['a lot from before', earlierLotInput, LOT, 'arrivedOn'],
    ['a job', jobChange, { id: 1, version: 1, priority: 1, dueOn: '2026-02-30' }, 'dueOn'],
  ])('that is none is refused by %s', (_, schema, input, field) => {
    expect(refused(schema, input)).toEqual([`${field}: Expected a day, such as 2026-11-27.`]);
    expect(refused(schema, { ...input, [field]: '2026-02-28' })).toEqual([]);
  });

  it('that is none is no production day of a claim', () => {
    const claimed = (text: string) => refused(claimItemInput, { kind: 'producedAfter', text });
    expect(claimed('2026-02-28')).toEqual([]);
    expect(claimed('2026-02-30')[0]).toContain(
      'expected a date such as 2026-03-01; found “2026-02-30”.',
    );
    expect(claimed('March 2026')[0]).toContain('expected a date');
  });
});

describe('the hours of the bench', () => {
  const HOURS = {
    ...{ version: 1, attendedFromMin: 480, attendedToMin: 1080 },
    ...{ attendedDays: [1, 2, 3, 4, 5], silenceLimitS: 60 },
  };
  it('begin before they end, on a day of the week', () => {
    expect(refused(benchSettingsInput, HOURS)).toEqual([]);
    expect(refused(benchSettingsInput, { ...HOURS, attendedToMin: 480 })).toEqual([
      'attendedToMin: Expected the hours to begin before they end.',
    ]);
    expect(refused(benchSettingsInput, { ...HOURS, attendedDays: [] })).toEqual([
      'attendedDays: Expected at least one day.',
    ]);
    expect(refused(benchSettingsInput, { ...HOURS, attendedDays: [0] })).toHaveLength(1);
    expect(refused(benchSettingsInput, { ...HOURS, attendedDays: [8] })).toHaveLength(1);
    expect(refused(benchSettingsInput, { ...HOURS, attendedToMin: 1441 })).toHaveLength(1);
  });
  it.each([9.9, 3601, NaN])('an agent does not carry on alone for %f s', (silenceLimitS) => {
    expect(refused(benchSettingsInput, { ...HOURS, silenceLimitS })).toHaveLength(1);
  });
  it('the room has a temperature people work in', () => {
    expect(refused(ambientInput, { celsius: 22.5 })).toEqual([]);
    expect(refused(ambientInput, { celsius: 295 })).toEqual(['celsius: Expected −40 to 80 °C.']);
    expect(refused(ambientInput, { celsius: '22' })).toEqual(['celsius: Expected a number.']);
  });
});

describe('what a channel can do', () => {
  const LIMITS = {
    ...{ minA: 0.1, maxA: 40, maxW: 300, minV: 0, maxV: 60, canCharge: true, canDischarge: true },
    ...{
      wires: 4,
      currentGainPct: 0.1,
      currentOffsetA: 0.01,
      voltageGainPct: 0.05,
      voltageOffsetV: 0.002,
    },
    ...{ resolutionV: 0.001, resolutionA: 0.001, reportS: 1, leadPlusMohm: 1, leadMinusMohm: 1 },
    ...{ fuseA: null, holderA: 50, enforcesCutoff: true },
  };
  it('has its least below its most', () => {
    expect(refused(channelLimits, LIMITS)).toEqual([]);
    expect(refused(channelLimits, { ...LIMITS, minA: 40 })).toEqual([
      'minA: Expected the least current below the most.',
    ]);
    expect(refused(channelLimits, { ...LIMITS, minV: 60 })).toEqual([
      'minV: Expected the least voltage below the most.',
    ]);
  });
  it.each([
    ['maxA', 0],
    ['maxA', Infinity],
    ['minV', -1],
    ['currentGainPct', 51],
    ['reportS', 0],
    ['wires', 3],
    ['fuseA', 0],
    ['leadPlusMohm', 1001],
  ])('%s of %f is none', (name, value) => {
    expect(refused(channelLimits, { ...LIMITS, [name]: value })[0]).toMatch(new RegExp(`^${name}`));
  });

  const NOWHERE = { load: null, supply: null, thermometer: null, resistanceMeter: null };
  it.each(['192.168.1.20:5025', 'load-3.lab:1', 'localhost:65535'])('%s is an address', (load) => {
    expect(refused(channelWiring, { ...NOWHERE, load })).toEqual([]);
  });
  it.each([
    '192.168.1.20',
    'load:',
    ':5025',
    'http://load:80',
    'a b:1',
    'load:65536',
    'load:123456',
  ])('%s is none', (load) =>
    expect(refused(channelWiring, { ...NOWHERE, load })[0]).toMatch(/^load: Expected/),
  );
  it('an input of a thermometer counts from one', () => {
    const thermometer = { address: 'meter:5025', input: 0 };
    expect(refused(channelWiring, { ...NOWHERE, thermometer })).toHaveLength(1);
    expect(
      refused(channelWiring, { ...NOWHERE, thermometer: { ...thermometer, input: 1 } }),
    ).toEqual([]);
  });
});

describe('jobs, recipes and tokens', () => {
  it('a job is of at least one cell, pressing by one where nothing is said', () => {
    expect(taken(jobsInput, { lotId: 1, cellIds: [4], recipeId: 2 })).toMatchObject({
      dueOn: null,
      priority: 1,
      reason: '',
    });
    expect(refused(jobsInput, { lotId: 1, cellIds: [], recipeId: 2 })).toEqual([
      'cellIds: Expected at least one cell.',
    ]);
    expect(refused(jobsInput, { lotId: 1, cellIds: [4], recipeId: 2, priority: 6 })).toHaveLength(
      1,
    );
  });

  const RECIPE = { name: ' Check ', purpose: 'claimCheck', attendedOnly: false };
  const rest = { kind: 'rest', minutes: 60 };
  const repeat = (steps: unknown[], times = 2) => ({ kind: 'repeat', times, steps });
  it('a recipe has steps; what is repeated repeats nothing itself', () => {
    expect(taken(recipeInput, { ...RECIPE, steps: [rest, repeat([rest])] })).toMatchObject({
      name: 'Check',
      thenRest: null,
    });
    expect(refused(recipeInput, { ...RECIPE, steps: [] })).toEqual([
      'steps: Expected at least one step.',
    ]);
    for (const steps of [
      [repeat([repeat([rest])])],
      [repeat([])],
      [repeat([rest], 0)],
      [repeat([rest], 51)],
    ])
      expect(refused(recipeInput, { ...RECIPE, steps })).not.toEqual([]);
  });
  it.each([
    [
      'a charge at nothing',
      {
        kind: 'charge',
        current: { in: 'A', value: 0 },
        limitV: 3.65,
        taperIt: 0.05,
        maxHours: null,
        limitAh: null,
      },
    ],
    ['a current in words', { kind: 'toStorage', current: { in: 'amps', value: 5 } }],
    [
      'an endless pulse',
      {
        kind: 'pulse',
        first: { in: 'A', value: 5 },
        firstS: Infinity,
        second: { in: 'A', value: 9 },
        secondS: 1,
      },
    ],
    ['a rest of months', { kind: 'rest', minutes: 129_601 }],
    ['nothing that is measured', { kind: 'measure', what: 'colour' }],
    [
      'a discharge into nothing',
      {
        kind: 'discharge',
        load: { by: 'resistor', ohm: 0 },
        cutoffV: null,
        maxHours: null,
        limitAh: null,
      },
    ],
  ])('%s is no step', (_, step) => {
    expect(refused(recipeInput, { ...RECIPE, steps: [step] })).not.toEqual([]);
  });

  it('a token says what it is for and what it may', () => {
    expect(refused(tokenInput, { name: 'Archive', scopes: ['read'] })).toEqual([]);
    expect(refused(tokenInput, { name: '  ', scopes: ['read'] })).toEqual([
      'name: Expected what it is for.',
    ]);
    expect(refused(tokenInput, { name: 'Archive', scopes: [] })).toEqual([
      'scopes: Expected at least one scope.',
    ]);
    expect(refused(tokenInput, { name: 'Archive', scopes: ['all'] })).toHaveLength(1);
  });
});

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
    ...{ dueDays: 28, toleranceDays: 3, keepV: 3.3, keepAs: 'keep', fastLossV: 3.2 },
    otherwise: 'reject',
  } as const;
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
