import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  ambientInput,
  benchSettingsInput,
  booksInput,
  channelLimits,
  channelWiring,
  claimItemInput,
  dayInput,
  dayOrNone,
  disputeMove,
  earlierLotInput,
  jobChange,
  jobsInput,
  recipeInput,
  tokenInput,
} from '../src/inputs';
import { refused, taken } from '../testing/refused';

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
