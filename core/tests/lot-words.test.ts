import { describe, expect, it } from 'vitest';
import { describePlan } from '../src/arrivals';
import {
  type AssessedResult,
  disputeDeadline,
  type ItemStateName,
  judgeQuantity,
  judgeTypical,
  lotSentence,
  lotVerdictWords,
  massByBox,
  summariseItem,
  whatWouldChange,
} from '../src/verdicts';

type Counts = Partial<Record<ItemStateName, number>>;
const results = (counts: Counts): AssessedResult[] =>
  Object.entries(counts).flatMap(([state, n]) =>
    Array.from({ length: n }, (_, i) => ({
      cell: `${state}${i}`,
      value: state === 'notMet' ? 95 : 106 + i / 10,
      standardUncertainty: 0.2,
      bound: 'exact' as const,
      state: state as ItemStateName,
    })),
  );
const item = (counts: Counts) => summariseItem(results(counts), { low: 104, high: null });
const lot = (cells: number, counts: Counts | null, more: object = {}) => ({
  cells,
  capacity: counts && item(counts),
  resistance: null,
  plausible: true,
  ...more,
});

describe('the sentence of a lot', () => {
  it.each<[string, ReturnType<typeof lot>, string]>([
    [
      'nothing measured',
      lot(12, null, { plausible: null }),
      'Nothing of the 12 cells is measured yet, so the claim is open.',
    ],
    [
      'one that misses',
      lot(3, { met: 2, notMet: 1 }),
      'This lot does not hold what was claimed for every cell.',
    ],
    [
      'a claim no such cell can hold',
      lot(3, { met: 3 }, { plausible: false }),
      'This lot cannot be what was claimed.',
    ],
    ['all held', lot(3, { held: 3 }), 'All 3 capacity results are held.'],
    [
      'resistance alone',
      lot(3, null, { resistance: item({ met: 3 }) }),
      'Capacity is not tested yet.',
    ],
    [
      'a typical claim',
      lot(3, { described: 3 }, { resistance: item({ met: 3 }) }),
      'The capacity is claimed as typical: the mean of the lot is judged, no single cell.',
    ],
    ['all meet it', lot(3, { met: 3 }), 'Every cell holds what was claimed.'],
    [
      'some not tested, some held',
      lot(9, { met: 3, held: 2 }),
      'Tested cells do not contradict the claim; 4 of 9 are not tested, 2 of 9 are held.',
    ],
    [
      'the rest held',
      lot(5, { met: 3, held: 2 }),
      'Tested cells do not contradict the claim; 2 of 5 are held.',
    ],
    [
      'measured with what nobody knows, or at another rate, is tested',
      lot(9, { met: 3, notComparable: 2, waitingFor: 1 }),
      'Tested cells do not contradict the claim; 3 of 9 are not tested, 2 of 9 are not comparable with the claim, 1 of 9 is measured with no known uncertainty.',
    ],
    [
      'nothing that can be judged',
      lot(4, { notComparable: 1, waitingFor: 2, held: 1 }),
      'No capacity result can be judged; 1 of 4 is held, 1 of 4 is not comparable with the claim, 2 of 4 are measured with no known uncertainty.',
    ],
    [
      'too close',
      lot(3, { met: 2, tooClose: 1 }),
      'The claim is neither shown nor refuted for every cell.',
    ],
  ])('%s', (_name, known, headline) => {
    expect(lotVerdictWords(known).headline).toBe(headline);
    const { cells, capacity, resistance, plausible } = known;
    expect(lotSentence(cells, capacity, resistance, plausible).startsWith(headline)).toBe(true);
  });

  it('says one and many as they are said', () => {
    const facts = (counts: Counts) => lotVerdictWords(lot(9, counts)).facts.map(({ text }) => text);
    expect(facts({ notMet: 1, met: 1 })).toEqual(['Capacity: 1 of 2 misses it, 1 meets it']);
    expect(facts({ notMet: 2, met: 2 })).toEqual(['Capacity: 2 of 4 miss it, 2 meet it']);
    expect(facts({ met: 2 })).toEqual(['Capacity: none of 2 misses it, 2 meet it']);
    expect(facts({ tooClose: 2 })).toEqual(['Capacity: none of 2 misses it, 2 too close to call']);
    // A bound that decides nothing is near no limit: it is told as what it is.
    const oneBound = lot(9, { tooClose: 3 });
    const capacity = { ...oneBound.capacity!, openBounds: 1 };
    expect(lotVerdictWords({ ...oneBound, capacity }).facts[0]!.text).toBe(
      'Capacity: none of 3 misses it, 2 too close to call, 1 at least; open',
    );
    expect(whatWouldChange({ ...oneBound, capacity }).slice(-2)).toEqual([
      'A better look at the 2 cells too close to call; each page says what would settle it.',
      'A discharge down to the cut-off, without a gap, of the 1 cell known only as at least.',
    ]);
    expect(facts({ held: 1 })).toEqual(['1 cell has only results that are held and do not count']);
    expect(facts({ held: 2 })[0]).toBe('2 cells have only results that are held and do not count');
  });

  it('what decides: held by its share of the cells, missed more than met', () => {
    const decides = (known: ReturnType<typeof lot>) =>
      lotVerdictWords(known).facts.map((fact) => fact.decides);
    expect(decides(lot(10, { held: 2 }))).toEqual([expect.closeTo(0.55, 9)]);
    expect(decides(lot(2, { held: 9 }))).toEqual([expect.closeTo(0.95, 9)]);
    expect(decides(lot(0, { held: 1 }))).toEqual([expect.closeTo(0.95, 9)]);
    expect(decides(lot(4, { notMet: 1, met: 3 }))).toEqual([expect.closeTo(0.6, 9)]);
    expect(decides(lot(8, { met: 4 }))).toEqual([expect.closeTo(0.2, 9)]);
    const others = [
      { words: 'mass', cells: 2 },
      { words: 'quantity', cells: null },
    ];
    expect(decides(lot(4, null, { others }))).toEqual([
      expect.closeTo(0.92, 9),
      expect.closeTo(0.7, 9),
    ]);
    expect(lotVerdictWords(lot(2, null, { others })).facts.map(({ text }) => text)).toEqual([
      'Quantity is not as claimed',
      'Mass is not as claimed for all 2',
    ]);
  });
});

describe('what would change the verdict', () => {
  const changes = (cells: number, counts: Counts | null, more: object = {}) =>
    whatWouldChange(lot(cells, counts, more));
  it('is what is left to do, most telling first', () => {
    expect(changes(1, null)).toEqual(['A capacity test of the 1 cell not tested yet.']);
    expect(changes(9, { met: 3, held: 1, notComparable: 1, waitingFor: 1, tooClose: 1 })).toEqual([
      'A lead’s look at the 1 held result.',
      'A capacity test of the 2 cells not tested yet.',
      'A better look at the 1 cell too close to call; each page says what would settle it.',
      'Tests at the claim’s conditions of the 1 cell that cannot be compared.',
      'An instrument with a known accuracy for the 1 cell without an uncertainty.',
    ]);
    expect(changes(5, { held: 2, met: 3 })).toEqual(['A lead’s look at the 2 held results.']);
  });
  it('nothing, where all was tested and judged or the claim cannot be', () => {
    expect(changes(3, { met: 2, notMet: 1 })).toEqual([
      'Nothing that is left to do: every cell was tested and judged.',
    ]);
    expect(changes(3, null, { plausible: false })[0]).toBe(
      'Nothing measured of the cells: such a cell cannot hold the claim.',
    );
    expect(changes(3, { met: 3 }, { plausible: false })).toEqual([
      'Nothing that is left to do: every cell was tested and judged.',
    ]);
  });
});

describe('claims about the lot as a whole', () => {
  const described = (values: number[], bound: 'exact' | 'atLeast' = 'exact'): AssessedResult[] =>
    values.map((value, i) => ({
      cell: `B-${i}`,
      value,
      standardUncertainty: 0.1,
      bound,
      state: 'described',
    }));
  it('a typical value waits for five results, bounds not counted', () => {
    const waits = { state: 'waitingFor', interval: null, what: ['5 results'] };
    expect(judgeTypical('capacity', 104, described([1, 2, 3, 4]))).toMatchObject(waits);
    const four = [...described([1, 2, 3, 4]), ...described([5, 6], 'atLeast')];
    expect(judgeTypical('capacity', 104, four)).toMatchObject(waits);
    // The t-interval of five: 104 ± 2.776 · 1.5811 / √5.
    const five = judgeTypical('capacity', 104, described([102, 103, 104, 105, 106]));
    expect(five.interval!.of).toBe('mean');
    expect(five.interval!.low).toBeCloseTo(104 - (2.7764 * 1.58114) / Math.sqrt(5), 3);
    expect(five.text).toBe(
      'Stated as typical: the lot’s mean lies within 102.04 to 105.96 (95 %).',
    );
  });
  it('a median of five has no 95 % interval yet: their ends hold it with 93.75 %', () => {
    expect(judgeTypical('acResistance', 1, described([1, 2, 3, 4, 5]))).toMatchObject({
      state: 'waitingFor',
      what: ['more results'],
    });
    const six = judgeTypical('acResistance', 6.01, described([1, 2, 3, 4, 5, 6]));
    expect(six).toMatchObject({ state: 'met', interval: { of: 'median' } });
    // What the meter leaves open on all of them is taken in: 2.5 and twice 0.1 beside the median.
    expect(six.interval!.low).toBeCloseTo(3.5 - Math.hypot(2.5, 0.2), 2);
    expect(six.interval!.high).toBeCloseTo(3.5 + Math.hypot(2.5, 0.2), 2);
    expect(judgeTypical('acResistance', 5.9, described([1, 2, 3, 4, 5, 6])).state).toBe('tooClose');
    expect(judgeTypical('dcResistance', 0.9, described([1, 2, 3, 4, 5, 6])).state).toBe('notMet');
  });
  it('a mean of many results by one meter is no better known than that meter', () => {
    const many = Array.from({ length: 240 }, (_, i) => 104 + 0.4 * Math.sin(i));
    const byMeter = (u: number) =>
      judgeTypical(
        'capacity',
        104.2,
        described(many).map((one) => ({ ...one, standardUncertainty: u, scatter: 0.15 })),
      );
    expect(byMeter(0.15).state).toBe('notMet');
    expect(byMeter(0.5).state).toBe('tooClose');
    expect(byMeter(0.5).text).toContain('have in common');
  });
  it('a limit is sharp: the interval that ends on it meets it', () => {
    const same = described([104, 104, 104, 104, 104]);
    expect(judgeTypical('capacity', 104, same).state).toBe('met');
    expect(judgeTypical('capacity', 104.001, same).state).toBe('notMet');
  });
  it('mass by the box', () => {
    expect(massByBox({ value: 1981.234, state: 'met' }, 32)).toMatchObject({
      state: 'met',
      text: 'By the box, net over count: 1981.2 g each; 32 cells were not weighed.',
    });
    expect(massByBox({ value: 45, state: 'notMet' }, 1)!.text).toContain('1 cell was not weighed');
    expect(massByBox({ value: 45, state: 'held' }, 1)).toBeNull();
    expect(massByBox(null, 4)).toBeNull();
  });
  it('counted against sold', () => {
    expect(judgeQuantity(240, 240)).toMatchObject({ state: 'met' });
    expect(judgeQuantity(240, 241)).toMatchObject({ state: 'met' });
    expect(judgeQuantity(240, 239)).toMatchObject({
      state: 'notMet',
      text: '239 are here, 240 were sold.',
    });
    expect(judgeQuantity(240, null)).toMatchObject({ state: 'waitingFor' });
    expect(judgeQuantity(240, 0)).toMatchObject({ state: 'notMet' });
  });
  it('the last day of a dispute window, over the end of a month, a year and a leap day', () => {
    const on = (days: number, from: string) =>
      disputeDeadline(days, from) as { state: string; on?: string };
    expect(on(14, '2026-11-20').on).toBe('2026-12-04');
    expect(on(14, '2026-12-20').on).toBe('2027-01-03');
    expect(on(2, '2028-02-27').on).toBe('2028-02-29');
    expect(on(0, '2026-03-29').on).toBe('2026-03-29');
    expect(disputeDeadline(14, null)).toMatchObject({ state: 'waitingFor' });
  });
});

describe('a plan of sampling in words', () => {
  it('all of a lot', () => {
    const plan = describePlan(24, { method: 'all' });
    expect(plan).toMatchObject({ lotSize: 24, sampleSize: 24, acceptance: 0, sequential: null });
    expect(plan.words).toBe('All 24 cells are tested; every short one is found.');
  });
  it('by attributes: letter, number, acceptance and rejection of the standard’s tables', () => {
    // 151 to 280 at level II is letter G; AQL 1.0 goes to n = 50 by the arrow? G and 1.0 is 32/1 by none.
    const plan = describePlan(240, { method: 'attributes', level: 'II', aql: '1.5' });
    expect(plan).toMatchObject({ sampleSize: 32, acceptance: 1 });
    expect(plan.words).toBe(
      'ISO 2859-1, single, normal, level II, AQL 1.5. Letter G: n = 32, Ac = 1, Re = 2.',
    );
  });
  it('by an arrow of the table, and as many as the lot or more', () => {
    const moved = describePlan(240, { method: 'attributes', level: 'II', aql: '1.0' });
    expect(moved.words).toMatch(/Letter G, by the arrow to [FH]: n = \d+, Ac = \d, Re = \d\./);
    const all = describePlan(10, { method: 'attributes', level: 'II', aql: '0.65' });
    expect(all).toMatchObject({ sampleSize: 10 });
    expect(all.words).toContain('As many as the lot or more: test all.');
  });
  it('by two risks, with the exact risks it keeps; drawn on, it never takes more', () => {
    const risks = { goodPct: 1, producerRiskPct: 5, badPct: 8, consumerRiskPct: 10 };
    const fixed = describePlan(240, { method: 'risk', ...risks });
    const [, good, bad] = /turned away with ([\d.]+) %.*taken with ([\d.]+) %/.exec(fixed.words)!;
    expect(Number(good)).toBeLessThanOrEqual(5);
    expect(Number(bad)).toBeLessThanOrEqual(10);
    const drawnOn = describePlan(240, { method: 'sequential', ...risks });
    expect(drawnOn.sampleSize).toBe(fixed.sampleSize);
    const [, one, two] = /; ([\d.]+) and ([\d.]+) tests expected/.exec(drawnOn.words)!;
    expect(Number(one)).toBeLessThan(fixed.sampleSize);
    expect(Number(two)).toBeLessThan(fixed.sampleSize);
    expect(drawnOn.sequential).not.toBeNull();
  });
  it('the curve falls from sure acceptance of a lot without short cells', () => {
    const { curve } = describePlan(240, { method: 'attributes', level: 'II', aql: '1.5' });
    expect(curve[0]).toMatchObject({ accept: 1 });
    for (let i = 1; i < curve.length; i++)
      expect(curve[i]!.accept).toBeLessThanOrEqual(curve[i - 1]!.accept + 1e-12);
    // It is drawn to where hardly any lot is taken any more, and not to its very end.
    expect(curve.at(-1)!.accept).toBeGreaterThanOrEqual(0.0005);
    expect(curve.at(-1)!.accept).toBeLessThan(0.02);
  });
});
