import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { claimPlausibility } from '../src/chemistry';
import { type HoldEvidence, holdsOf, HOUSE_HOLD_LIMITS, type LikeResult } from '../src/verdicts';

/** A 104 Ah cell of LFP whose run says nothing against itself. */
const SOUND: HoldEvidence = {
  capacity: { value: 103.2, bound: 'exact' },
  energyWh: 103.2 * 3.21,
  ratedAh: 104,
  model: {
    chemistry: 'LFP',
    envelope: null,
    massG: 1980,
    cutoffV: 2.5,
    chargeV: 3.65,
  },
  sanity: { lowV: 2.5, highV: 3.4, putInAh: null, countsApart: null },
  findings: [],
  clocksApart: null,
  like: null,
};
const rules = (change: Partial<HoldEvidence>, limits = HOUSE_HOLD_LIMITS) =>
  holdsOf({ ...SOUND, ...change }, limits).map(({ rule }) => rule);
const held = (value: number, bound: 'exact' | 'atLeast' | 'atMost' = 'exact') => ({
  capacity: { value, bound },
  energyWh: value * 3.21,
});
const result = (
  value: number,
  expandedPct = 1,
  bound: LikeResult['bound'] = 'exact',
): LikeResult => ({ value, standardUncertainty: (value * expandedPct) / 200, bound });

describe('what is held', () => {
  it('nothing of a run that says nothing against itself', () => expect(rules({})).toEqual([]));

  describe('more than such a cell can hold', () => {
    const largest = claimPlausibility({
      ratedAh: 104,
      chemistry: 'LFP',
      envelope: null,
      massG: 1980,
    }).largestAh!;
    it('as much as fits its mass is believed, a little more is not', () => {
      expect(rules({ ...held(largest * 0.999), ratedAh: null })).toEqual([]);
      expect(rules({ ...held(largest * 1.001), ratedAh: null })).toEqual(['tooMuch']);
    });
    it('186 Ah on a cell of 104 Ah is held for more than one reason', () => {
      const found = holdsOf({ ...SOUND, ...held(186) });
      expect(found.map(({ rule }) => rule)).toEqual(['tooMuch', 'understated']);
      expect(found[1]!.text).toContain('179 % of the rated 104.0 Ah');
    });
    it('at least so much counts as so much; at most so much says nothing', () => {
      expect(rules(held(186, 'atLeast'))).toContain('tooMuch');
      expect(rules(held(186, 'atMost'))).toEqual([]);
    });
    it('a cell of which neither size nor mass is known has no ceiling', () => {
      expect(
        rules({ ...held(1000), ratedAh: null, model: { ...SOUND.model, massG: null } }),
      ).toEqual([]);
    });
  });

  it.each([
    [1.2, []],
    [1.21, ['understated']],
  ])('%d of the rated capacity: %j', (share, expected) => {
    const model = { ...SOUND.model, massG: null };
    expect(rules({ ...held(100 * share), ratedAh: 100, model })).toEqual(expected);
  });

  describe('a voltage that cannot be', () => {
    const sanity = (lowV: number, highV: number) => ({
      sanity: { lowV, highV, putInAh: null, countsApart: null },
    });
    it.each([
      [2.45, 3.7, []],
      [2.44, 3.4, ['impossibleVoltage']],
      [2.6, 3.71, ['impossibleVoltage']],
    ])('most of the time within %d to %d V: %j', (lowV, highV, expected) =>
      expect(rules(sanity(lowV, highV))).toEqual(expected),
    );
    it.each([
      [2.5, []],
      [2.49, ['impossibleVoltage']],
      [3.65, []],
      [3.66, ['impossibleVoltage']],
    ])('energy over charge of %d V: %j', (meanV, expected) => {
      expect(rules({ capacity: { value: 100, bound: 'exact' }, energyWh: 100 * meanV })).toEqual(
        expected,
      );
    });
    it('without energy, without charge, or of a typed result nothing is said', () => {
      expect(rules({ energyWh: null, sanity: null })).toEqual([]);
      expect(rules({ capacity: { value: 0, bound: 'exact' }, energyWh: 5 })).toEqual([]);
    });
  });

  it.each([
    [0.02, []],
    [0.021, ['twoCounts']],
    [-0.021, ['twoCounts']],
  ])('counter and integral %d apart: %j', (countsApart, expected) =>
    expect(rules({ sanity: { ...SOUND.sanity!, countsApart } })).toEqual(expected),
  );

  it.each([
    [103.2, 'exact', []],
    [101, 'exact', ['outOfNothing']],
    [101, 'atLeast', ['outOfNothing']],
    [101, 'atMost', []],
  ] as const)('out of %d Ah put in came %s 103.2: %j', (putInAh, bound, expected) =>
    expect(rules({ ...held(103.2, bound), sanity: { ...SOUND.sanity!, putInAh } })).toEqual(
      expected,
    ),
  );

  it.each([
    [null, []],
    [0.01, []],
    [-0.0101, ['clock']],
    [0.0101, ['clock']],
  ])('clocks %d apart: %j', (clocksApart, expected) =>
    expect(rules({ clocksApart })).toEqual(expected),
  );

  it('findings of the log hold by themselves, others do not', () => {
    expect(rules({ findings: ['cut-off-in-hole-uncounted'] })).toEqual(['cutOffInHole']);
    expect(rules({ findings: ['time-guessed'] })).toEqual(['clock']);
    expect(rules({ findings: ['gaps', 'voltage-noise'] })).toEqual([]);
  });

  describe('beside the cell’s other results', () => {
    const like = (own: LikeResult, ...others: LikeResult[]) => ({ like: { own, others } });
    it('two that agree are believed, two that do not are held, whichever is asked', () => {
      expect(rules(like(result(103), result(104)))).toEqual([]);
      expect(rules(like(result(103), result(93)))).toEqual(['disagrees']);
      expect(rules(like(result(93), result(103)))).toEqual(['disagrees']);
    });
    it('as far apart as their uncertainties allow they do not disagree', () => {
      // 10 % apart: E_n = 10.3 / √2 / U.
      expect(rules(like(result(103, 5), result(92.7, 5)))).toEqual([]);
      expect(rules(like(result(103, 4), result(92.7, 4)))).toEqual(['disagrees']);
    });
    it('less than five hundredths apart is believed, however sure both are', () => {
      expect(rules(like(result(104.9, 0.1), result(100, 0.1)))).toEqual([]);
      expect(rules(like(result(105.1, 0.1), result(100, 0.1)))).toEqual(['disagrees']);
    });
    it('of three the two that agree decide', () => {
      expect(rules(like(result(103), result(103.5), result(90)))).toEqual([]);
      expect(rules(like(result(90), result(103.5), result(103)))).toEqual(['disagrees']);
    });
    it('bounds, and results of whose uncertainty nothing is known, decide nothing', () => {
      const unsure = { ...result(90), standardUncertainty: null };
      expect(rules(like(result(103), unsure))).toEqual([]);
      expect(rules(like(unsure, result(103)))).toEqual([]);
      expect(rules(like(result(103), result(90, 1, 'atLeast')))).toEqual([]);
      expect(rules(like(result(90, 1, 'atMost'), result(103)))).toEqual([]);
      expect(rules(like(result(103)))).toEqual([]);
    });
    it('says by how much and how surely', () => {
      const [hold] = holdsOf({ ...SOUND, ...like(result(90), result(103), result(104)) });
      expect(hold!.text).toMatch(
        /^90\.00 Ah at like conditions, where the cell’s other 2 results are about 103\.5 Ah: 12\.6 % apart, E_n \d/,
      );
    });
    it('in other units it is the same', () => {
      fc.assert(
        fc.property(
          fc.double({ min: 50, max: 150, noNaN: true }),
          fc.array(fc.double({ min: 50, max: 150, noNaN: true }), { minLength: 1, maxLength: 6 }),
          (own, others) => {
            const at = (scale: number) =>
              rules({
                ...held(100 * scale),
                ratedAh: null,
                model: { ...SOUND.model, massG: null },
                ...like(result(own * scale), ...others.map((value) => result(value * scale))),
              });
            expect(at(0.25)).toEqual(at(1));
          },
        ),
      );
    });
  });

  it('wider limits of the lab hold less, never more', () => {
    const odd: Partial<HoldEvidence> = {
      ...held(130),
      sanity: { lowV: 2.4, highV: 3.8, putInAh: 120, countsApart: 0.05 },
      clocksApart: 0.05,
      like: { own: result(130), others: [result(104)] },
    };
    const strict = rules(odd);
    expect(strict).toEqual(
      expect.arrayContaining([
        'understated',
        'impossibleVoltage',
        'twoCounts',
        'outOfNothing',
        'disagrees',
        'clock',
      ]),
    );
    for (const [limit, rule, wide] of [
      ['understated', 'understated', 1.3],
      ['voltageV', 'impossibleVoltage', 0.2],
      ['countsApart', 'twoCounts', 0.06],
      ['outOfNothing', 'outOfNothing', 1.2],
      ['disagrees', 'disagrees', 0.3],
      ['disagreesEn', 'disagrees', 1000],
      ['clocksApart', 'clock', 0.06],
    ] as const)
      expect(rules(odd, { ...HOUSE_HOLD_LIMITS, [limit]: wide }), limit).toEqual(
        strict.filter((one) => one !== rule),
      );
  });
});
