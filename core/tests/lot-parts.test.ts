import { describe, expect, it } from 'vitest';
import { seededRandom, twoHumps } from '../src/statistics';
import {
  type AssessedResult,
  type ItemStateName,
  lotOutliers,
  lotSentence,
  lotVerdictWords,
  normalScores,
  partingOf,
  type PlacedValue,
  STRONGEST_FACTS,
  summariseItem,
  type SuspectValue,
  whatWouldChange,
} from '../src/verdicts';

describe('one hump or two', () => {
  const RESOLUTION = 0.001;
  it('cries wolf in at most 2 % of 1000 normal lots of 60', () => {
    const random = seededRandom(20_261_128);
    let alarms = 0;
    for (let lot = 0; lot < 1000; lot++) {
      const values = Array.from({ length: 60 }, () => 6 + 0.02 * random.normal());
      if (twoHumps(values, RESOLUTION)!.isMixed) alarms++;
    }
    expect(alarms).toBeLessThanOrEqual(20);
  });

  it('cries wolf in at most 2 % of lots of one hump that is skew, even or with heavy tails', () => {
    const random = seededRandom(11);
    const exponential = () => -Math.log(1 - random.uniform());
    const student = () => {
      const chi = Array.from({ length: 4 }, () => random.normal() ** 2);
      return random.normal() / Math.sqrt(chi.reduce((a, b) => a + b, 0) / 4);
    };
    const gamma = () => exponential() + exponential() + exponential() + exponential();
    const shapes: Record<string, () => number> = {
      gamma,
      'gamma, the other way': () => -gamma(),
      'log-normal': () => Math.exp(0.5 * random.normal()),
      exponential,
      even: random.uniform,
      't of four degrees': student,
    };
    for (const [name, shape] of Object.entries(shapes))
      for (const [cells, lots] of [
        [60, 300],
        [240, 120],
      ] as const) {
        let alarms = 0;
        for (let lot = 0; lot < lots; lot++) {
          const values = Array.from({ length: cells }, () => 6 + 0.02 * shape());
          if (twoHumps(values, 1e-4)!.isMixed) alarms++;
        }
        expect([name, cells, alarms / lots <= 0.02]).toEqual([name, cells, true]);
      }
  });

  it('finds most lots of 100 mixed 30 to 70, four spreads apart, nearly all of 240, and a third of those of 60', () => {
    const random = seededRandom(1965);
    const found = (cells: number, lots: number): number => {
      let mixed = 0;
      for (let lot = 0; lot < lots; lot++) {
        const values = Array.from(
          { length: cells },
          (_, i) => 6 + (i < 0.3 * cells ? 0 : 0.08) + 0.02 * random.normal(),
        );
        if (twoHumps(values, RESOLUTION)!.isMixed) mixed++;
      }
      return mixed / lots;
    };
    expect(found(100, 200)).toBeGreaterThanOrEqual(0.8);
    expect(found(240, 60)).toBeGreaterThan(0.9);
    // So few values four spreads apart are as often explained by one skew hump.
    expect(found(60, 200)).toBeGreaterThan(0.33);
  });
});

describe('what parts a mixed lot', () => {
  const random = seededRandom(77);
  const lot = (attributes: (i: number) => Record<string, string>): PlacedValue[] =>
    Array.from({ length: 60 }, (_, i) => ({
      cell: `A-${i}`,
      value: (i < 24 ? 6.03 : 6.2) + 0.012 * random.normal(),
      attributes: attributes(i),
    }));
  const humpsOf = (cells: readonly PlacedValue[]) =>
    twoHumps(
      cells.map(({ value }) => value),
      0.001,
    );
  const NAMES = ['production date', 'pack', 'box', 'channel'];

  it('is named, with the figures of each part', () => {
    const cells = lot((i) => ({
      'production date': i < 24 ? '2025-11-02' : i % 2 ? '2026-01-10' : '2026-01-11',
      box: String(i % 3),
    }));
    const parting = partingOf(cells, humpsOf(cells), NAMES)!;
    expect(parting.attribute).toBe('production date');
    expect(parting.agreement).toBeGreaterThan(0.97);
    expect(parting.p).toBeLessThan(0.005);
    const [low, high] = parting.parts;
    expect([low.of, low.n]).toEqual(['2025-11-02', 24]);
    expect([high.of, high.n]).toEqual(['2026-01-10, 2026-01-11', 36]);
    expect(low.mean).toBeCloseTo(6.03, 1);
    const first = cells.slice(0, 24).map(({ value }) => value);
    expect(low.mean).toBeCloseTo(first.reduce((sum, value) => sum + value, 0) / 24, 10);
    expect(low.minimum).toBe(Math.min(...first));
    expect(low.n + high.n).toBe(60);
  });

  it('is not made up where nothing parts it', () => {
    for (const attributes of [
      (i: number) => ({ box: String(i % 4), channel: String(i % 7) }),
      // Each of its own kind: that parts everything, and says nothing.
      (i: number) => ({ pack: `P-${i}` }),
      () => ({ 'production date': '2026-01-10' }),
      // Known of too few.
      (i: number): Record<string, string> => (i < 20 ? { box: 'one' } : {}),
    ]) {
      const cells = lot(attributes);
      expect(humpsOf(cells)!.isMixed).toBe(true);
      expect(partingOf(cells, humpsOf(cells), NAMES)).toBeNull();
    }
  });

  it('is found, too, where the humps overlap', () => {
    const cells = Array.from({ length: 240 }, (_, i): PlacedValue => ({
      cell: `A-${i}`,
      value: (i % 8 < 3 ? 6.13 : 6.26) + 0.035 * random.normal(),
      attributes: {
        'production date': i % 8 < 3 ? '2025-11-02' : '2026-01-10',
        channel: `channel ${i % 11}`,
      },
    }));
    const parting = partingOf(cells, humpsOf(cells), NAMES)!;
    expect(parting.attribute).toBe('production date');
    expect(parting.parts.map(({ n }) => n)).toEqual([90, 150]);
    expect(parting.agreement).toBeGreaterThan(0.9);
    // So many lie on the side of theirs, counted cell by cell.
    const middle = (parting.parts[0].mean + parting.parts[1].mean) / 2;
    const onSide = cells.filter(
      ({ value, attributes }) =>
        value < middle === (attributes['production date'] === '2025-11-02'),
    );
    expect(onSide.length).toBeLessThan(240);
    expect(parting.agreement).toBeCloseTo(onSide.length / 240, 12);
  });

  it('is not asked for where there is one hump', () => {
    const cells = lot(() => ({ box: '1' })).slice(0, 24);
    expect(partingOf(cells, humpsOf(cells), NAMES)).toBeNull();
    expect(partingOf(cells, null, NAMES)).toBeNull();
  });
});

describe('cells that stand out', () => {
  const random = seededRandom(5);
  const base = (n = 40): SuspectValue[] =>
    Array.from({ length: n }, (_, i) => ({
      cell: `B-${i}`,
      value: 100 + 0.5 * random.normal(),
      isTyped: false,
      channel: `channel ${i % 8}`,
      connectionZ: 0,
    }));
  const one = (more: Partial<SuspectValue>) => {
    const cells = base();
    cells[3] = { ...cells[3]!, ...more };
    return lotOutliers(cells).find(({ cell }) => cell === 'B-3')!;
  };

  it('are told with who is suspected', () => {
    expect(one({ value: 1004, isTyped: true, channel: null }).suspect).toBe('typing');
    expect(one({ value: 10.1, isTyped: true, channel: null }).suspect).toBe('typing');
    expect(one({ value: 92, connectionZ: 6 }).suspect).toBe('connection');
    expect(one({ value: 92 })).toMatchObject({ suspect: 'cell', z: expect.any(Number) });
    // Not typed: ten times too much is no slip of the hand.
    expect(one({ value: 1004 }).suspect).toBe('cell');
  });

  it('a channel is suspected where most of its results lie on one side', () => {
    const cells = base();
    for (const cell of cells) if (cell.channel === 'channel 5') cell.value = 96;
    const told = lotOutliers(cells);
    expect(told.map(({ cell }) => cell).sort()).toEqual(['B-13', 'B-21', 'B-29', 'B-37', 'B-5']);
    expect(told.every(({ suspect }) => suspect === 'channel')).toBe(true);
  });

  it('worst first, none in a sound lot, none among few', () => {
    expect(lotOutliers(base()).length).toBeLessThanOrEqual(1);
    expect(lotOutliers(base(4))).toEqual([]);
    const cells = base();
    cells[1]!.value = 90;
    cells[2]!.value = 80;
    expect(
      lotOutliers(cells)
        .slice(0, 2)
        .map(({ cell }) => cell),
    ).toEqual(['B-2', 'B-1']);
  });

  it('normal values lie on a line', () => {
    const scores = normalScores(Array.from({ length: 400 }, () => 5 + 2 * random.normal()));
    const n = scores.length;
    const mean = scores.reduce((sum, { value }) => sum + value, 0) / n;
    const [sxy, sxx] = scores.reduce(
      ([a, b], { value, score }) => [a! + score * (value - mean), b! + score * score],
      [0, 0],
    );
    expect(sxy! / sxx!, 'its slope is the spread').toBeCloseTo(2, 0);
    expect(scores.every(({ value }, i) => i === 0 || value >= scores[i - 1]!.value)).toBe(true);
    expect(normalScores([])).toEqual([]);
  });
});

describe('the sentence of a lot and what it rests on', () => {
  const results = (counts: Partial<Record<ItemStateName, number>>): AssessedResult[] =>
    Object.entries(counts).flatMap(([state, n]) =>
      Array.from({ length: n }, (_, i) => ({
        cell: `${state}${i}`,
        value: state === 'notMet' ? 95 : 106,
        standardUncertainty: 0.2,
        bound: 'exact' as const,
        state: state as ItemStateName,
      })),
    );
  const item = (counts: Partial<Record<ItemStateName, number>>) =>
    summariseItem(results(counts), { low: 104, high: null });
  const known = {
    cells: 32,
    capacity: item({ met: 4, notMet: 23, tooClose: 3 }),
    resistance: item({ met: 30 }),
    plausible: true,
    others: [
      { words: 'condition', cells: 32 },
      { words: 'mass', cells: 2 },
    ],
  };

  it('puts what decides most first, and says the same as the whole text', () => {
    const { headline, facts } = lotVerdictWords(known);
    expect(headline).toBe('This lot does not hold what was claimed for every cell.');
    expect(facts.slice(0, STRONGEST_FACTS).map(({ text }) => text)).toEqual([
      'Condition is not as claimed for all 32',
      'Capacity: 23 of 30 miss it, 4 meet it, 3 too close to call',
      'Mass is not as claimed for 2',
    ]);
    const whole = lotSentence(32, known.capacity, known.resistance, true, known.others);
    for (const { text } of facts) expect(whole.toLowerCase()).toContain(text.toLowerCase());
    for (let i = 1; i < facts.length; i++)
      expect(facts[i]!.decides).toBeLessThanOrEqual(facts[i - 1]!.decides);
  });

  it('names held results before anything else, and an impossible claim next', () => {
    const capacity = item({ held: 2, notMet: 5 });
    const { headline, facts } = lotVerdictWords({ ...known, capacity, plausible: false });
    expect(headline).toBe('This lot cannot be what was claimed.');
    expect(facts[0]!.text).toMatch(/^2 cells have only results that are held/);
    expect(facts[1]!.text).toMatch(/^The claimed capacity is more than this size/);
  });

  it('says what would change it', () => {
    expect(whatWouldChange(known)).toEqual([
      'A capacity test of the 2 cells not tested yet.',
      'A better look at the 3 cells too close to call; each page says what would settle it.',
    ]);
    expect(whatWouldChange({ ...known, capacity: item({ met: 32 }) })).toEqual([
      'Nothing that is left to do: every cell was tested and judged.',
    ]);
    expect(whatWouldChange({ ...known, capacity: item({ held: 1, met: 31 }) })).toEqual([
      'A lead’s look at the 1 held result.',
    ]);
    expect(whatWouldChange({ ...known, capacity: null, plausible: false })[0]).toMatch(
      /cannot hold the claim/,
    );
  });
});
