import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  alarmsOf,
  answeredBefore,
  cableMohm,
  cableRiseK,
  calendarFile,
  claimDifferences,
  coursePoints,
  courseS,
  expectedCourse,
  fullTooEarly,
  leadLoss,
  loadTestStep,
  packAgainstWeakest,
  rateStood,
  programOf,
  reachableCurrent,
  RecipeProblem,
  type RecipeStep,
  remainingS,
  SHIPPED_RECIPES,
  startQuestions,
  startReasons,
  type StartFacts,
  warmingKPerMin,
} from '../src/bench';
import { seededRandom } from '../src/statistics';
import { CHANNEL_LIMITS as LIMITS, CONDITIONS } from '../testing/bench-conditions';

const claimCheck = SHIPPED_RECIPES[0]!;

describe('reachable current', () => {
  it('is held by power on a string and by current on one cell', () => {
    const load = { maxA: 30, maxW: 150, fuseA: null, holderA: null };
    const string = reachableCurrent(load, 25.6, null);
    expect(string.amps).toBeCloseTo(5.86, 2);
    expect(string.limit).toContain('150 W');
    const cell = reachableCurrent(load, 3.3, null);
    expect(cell.amps).toBe(30);
    expect(cell.limit).toContain('30.0 A');
  });
  it('is held by the holder, by 0.8 of the fuse, and by the claim', () => {
    const load = { maxA: 100, maxW: 1000, fuseA: 25, holderA: 40 };
    expect(reachableCurrent(load, 3.3, null)).toMatchObject({ amps: 20 });
    expect(reachableCurrent({ ...load, holderA: 12 }, 3.3, null).limit).toContain('holder');
    expect(reachableCurrent(load, 3.3, 6).limit).toContain('claim');
  });
});

describe('leads and cables', () => {
  it('copper of 10 mm², 1.5 m each way: 5.25 mΩ at 20 °C, more when warm', () => {
    expect(cableMohm(1.5, 10)).toBeCloseTo(5.25, 6);
    expect(cableMohm(1.5, 10, 60)).toBeCloseTo(5.25 * 1.156, 4);
  });
  it('two wires of 6 mΩ at 20.8 A take 125 mV and the app says what to set', () => {
    const loss = leadLoss(6, 20.8, { hours: 5, wires: 2, cutoffV: 2.5 });
    expect(loss.dropV).toBeCloseTo(0.1248, 4);
    expect(loss.energyWh).toBeCloseTo(0.1248 * 20.8 * 5, 3);
    expect(loss.advice).toContain('2.375 V');
    expect(leadLoss(6, 20.8, { hours: 5, wires: 4, cutoffV: 2.5 }).advice).toBeNull();
  });
  it('a thicker cable stays cooler', () => {
    expect(cableRiseK(60, 10)).toBeGreaterThan(cableRiseK(60, 25));
    expect(cableRiseK(0, 10)).toBe(0);
  });
});

describe('full too early', () => {
  const bank = { cells: 4, ratedAh: 104, fromStateOfCharge: 0.3, supplyA: 10 };
  it('four 104 Ah cells full after 21 h hold at most 75 Ah each', () => {
    const seen = fullTooEarly(bank, 21);
    expect(seen.leastHours).toBeCloseTo(29.12, 2);
    expect(seen.atMostIntoEachAh).toBeCloseTo(52.5, 6);
    expect(seen.atMostAh).toBeCloseTo(75, 6);
    expect(seen.tooEarly).toBe(true);
    expect(seen.sentence).toContain('29.1 h');
  });
  it('says nothing against a claim when the time is about right, or the start not known so well', () => {
    expect(fullTooEarly(bank, 29.5).tooEarly).toBe(false);
    expect(fullTooEarly(bank, 28, 0.1).tooEarly).toBe(false);
    expect(() => fullTooEarly({ ...bank, fromStateOfCharge: 1 }, 3)).toThrow(RangeError);
  });
});

describe('recipes', () => {
  it('settle for a cell, repeats counted out', () => {
    for (const recipe of SHIPPED_RECIPES)
      expect(programOf(recipe.steps, CONDITIONS).length).toBeGreaterThan(1);
    const conditioning = SHIPPED_RECIPES.find(({ purpose }) => purpose === 'conditioning')!;
    expect(programOf(conditioning.steps, CONDITIONS)).toHaveLength(3 * 4 + 5);
    expect(programOf(claimCheck.steps, CONDITIONS)[2]).toMatchObject({ set: 20.8, cutoffV: 2.5 });
  });
  it('are refused with the step that is to blame', () => {
    const refused = (steps: RecipeStep[]) => {
      try {
        programOf(steps, CONDITIONS);
      } catch (error) {
        return error as RecipeProblem;
      }
      throw new Error('Expected a refusal.');
    };
    const charge = claimCheck.steps[0] as Extract<RecipeStep, { kind: 'charge' }>;
    expect(refused([])).toMatchObject({ step: 0 });
    expect(
      refused([
        { kind: 'rest', minutes: 5 },
        { ...charge, limitV: 4.2 },
      ]),
    ).toMatchObject({ step: 2 });
    expect(refused([{ ...charge, current: { in: 'A', value: 150 } }]).message).toContain(
      '104.00 A',
    );
    expect(refused([{ ...charge, taperIt: 0.6 }]).message).toContain('below');
    expect(refused([{ kind: 'repeat', times: 0, steps: [charge] }]).message).toContain('1 to 50');
    expect(
      refused([{ kind: 'repeat', times: 50, steps: [charge, charge, charge, charge, charge] }])
        .message,
    ).toContain('200');
  });
  it('last as long as charge over current and the taper say', () => {
    const program = programOf(claimCheck.steps, CONDITIONS);
    const course = expectedCourse(program, {
      chemistry: 'LFP',
      capacityAh: 104,
      stateOfCharge: 0.3,
      tauS: null,
    });
    const [charge, rest, discharge] = course;
    expect(charge!.toS).toBeCloseTo((0.7 / 0.5) * 3600 + 25 * 60 * Math.log(10), 3);
    expect(rest!.toS - rest!.fromS).toBe(3600);
    expect(discharge!.toS - discharge!.fromS).toBeCloseTo(5 * 3600, 6);
    expect(courseS(course)).toBe(course[4]!.toS);
    const points = coursePoints(course, program, { chemistry: 'LFP', capacityAh: 104, tauS: null });
    expect(points.every((point, i) => i === 0 || point.timeS >= points[i - 1]!.timeS - 1e-9)).toBe(
      true,
    );
    expect(Math.max(...points.map(({ voltageV }) => voltageV))).toBeLessThanOrEqual(3.65 + 1e-9);
    expect(Math.min(...points.map(({ currentA }) => currentA))).toBeCloseTo(-20.8, 6);
  });
  it('say when they will be done from what has flowed', () => {
    const step = programOf(claimCheck.steps, CONDITIONS)[2]!;
    expect(
      remainingS(
        step,
        { fromS: 0, toS: 18_000 },
        { sinceS: 3600, ah: 52, currentA: -20.8, expectedAh: 104 },
      ),
    ).toBeCloseTo(9000, 6);
    expect(
      remainingS(
        { kind: 'rest', seconds: 60 },
        { fromS: 0, toS: 60 },
        { sinceS: 45, ah: 0, currentA: 0, expectedAh: 0 },
      ),
    ).toBe(15);
  });
  it('say what differs from the claim', () => {
    const program = programOf(claimCheck.steps, CONDITIONS);
    expect(claimDifferences(program, CONDITIONS, null)).toEqual([]);
    const weak = { amps: 10, limit: 'the channel’s 10.0 A' };
    const held = claimDifferences(program, CONDITIONS, { charge: weak, discharge: weak });
    expect(held.join(' ')).toContain('10.00 A (0.096 It)');
    expect(held.join(' ')).toContain('corrected');
    const screen = programOf(SHIPPED_RECIPES[2]!.steps, CONDITIONS);
    expect(claimDifferences(screen, CONDITIONS, null).join(' ')).toContain(
      'never states a capacity',
    );
  });
});

describe('before a start', () => {
  const facts: StartFacts = {
    program: programOf(claimCheck.steps, CONDITIONS),
    purpose: 'claimCheck',
    attendedOnly: false,
    limits: LIMITS,
    inspectionClear: true,
    voltageV: 3.28,
    lowV: 2.5,
    highV: 3.65,
    ambientC: 22,
    claimTemperatureC: 25,
    counterAh: 0,
    course: expectedCourse(programOf(claimCheck.steps, CONDITIONS), {
      chemistry: 'LFP',
      capacityAh: 104,
      stateOfCharge: 0.3,
      tauS: null,
    }),
    isKnown: true,
    attendedForS: 48 * 3600,
    driven: true,
  };
  const codes = (more: Partial<StartFacts>) =>
    startReasons({ ...facts, ...more }).map(({ code }) => code);
  it('nothing is said where nothing is wrong', () => expect(codes({})).toEqual([]));
  it.each<[string, Partial<StartFacts>]>([
    ['inspection', { inspectionClear: false }],
    ['notInspected', { inspectionClear: null }],
    ['noVoltage', { voltageV: null }],
    ['voltage', { voltageV: 1.9 }],
    ['cannotCharge', { limits: { ...LIMITS, canCharge: false } }],
    ['noAmbient', { ambientC: null }],
    ['ambient', { ambientC: -3 }],
    ['ambient', { ambientC: 33 }],
    ['claimTemperature', { ambientC: 18, claimTemperatureC: 25 }],
    ['counter', { counterAh: 3.2 }],
    ['unattended', { attendedOnly: true, attendedForS: 0 }],
    ['unattended', { isKnown: false, attendedForS: 0 }],
    ['noCutoff', { attendedForS: 0, limits: { ...LIMITS, enforcesCutoff: false } }],
    ['noFuse', { attendedForS: 0, limits: { ...LIMITS, fuseA: null } }],
  ])('%s', (code, more) => expect(codes(more)).toContain(code));
  it('an agent sets cut-off and counter itself', () => {
    expect(startQuestions(facts)).not.toContain('cutoffOnInstrument');
    expect(startQuestions({ ...facts, driven: false })).toContain('cutoffOnInstrument');
  });
});

describe('alarms', () => {
  const program = programOf(claimCheck.steps, CONDITIONS);
  const limits = { highV: 3.65, lowV: 2, ambientC: 22, intervalS: 10 };
  const readings = (more: object, n = 14) =>
    Array.from({ length: n }, (_, i) => ({
      timeS: i * 10,
      voltageV: 3.4,
      currentA: 52,
      temperatureC: 23,
      ...more,
    }));
  const codes = (step: number, more: object) =>
    alarmsOf(program[step]!, readings(more), limits).map(({ code }) => code);
  it('are silent while all is well', () => {
    expect(codes(0, {})).toEqual([]);
    expect(codes(2, { currentA: -20.8 })).toEqual([]);
    expect(codes(0, { currentA: 12, voltageV: 3.65 })).toEqual([]);
  });
  it('tell heat on charge three ways, each of which blocks the cell', () => {
    expect(alarmsOf(program[0]!, readings({ temperatureC: 46 }), limits)[0]).toMatchObject({
      code: 'heatOnCharge',
      action: 'block',
    });
    expect(codes(0, { temperatureC: 32.5 })).toEqual(['heatOnCharge']);
    const warming = readings({}).map((one) => ({ ...one, temperatureC: 24 + one.timeS / 50 }));
    expect(warmingKPerMin(warming, limits.intervalS)).toBeCloseTo(1.2, 6);
    expect(alarmsOf(program[0]!, warming, limits)[0]!.text).toContain('1.2 K/min');
    // A current that is not steady explains warmth.
    const unsteady = warming.map((one, i) => ({ ...one, currentA: i * 4 }));
    expect(warmingKPerMin(unsteady, limits.intervalS)).toBeNull();
  });
  it.each([1, 10, 30, 60, 120])('tells warming from readings every %d s, too', (intervalS) => {
    const rising = (kPerMin: number, count: number) =>
      Array.from({ length: count }, (_, i) => ({
        timeS: i * intervalS,
        voltageV: 3.4,
        currentA: 52,
        temperatureC: 24 + (kPerMin * i * intervalS) / 60,
      }));
    const many = Math.ceil(600 / intervalS);
    expect(warmingKPerMin(rising(1.5, many), intervalS)).toBeCloseTo(1.5, 9);
    expect(warmingKPerMin(rising(1.5, 3), intervalS)).toBeNull();
    const enough = Math.max(5, Math.ceil(130 / intervalS) + 1);
    const found = alarmsOf(program[0]!, rising(1.5, enough), { ...limits, intervalS });
    expect(found.map(({ code }) => code)).toEqual(['heatOnCharge']);
    expect(alarmsOf(program[0]!, rising(0.8, 6), { ...limits, intervalS })).toEqual([]);
  });
  it('tell a cut-off that was passed, a wrong voltage, a wrong current, a hot discharge', () => {
    expect(codes(2, { currentA: -20.8, voltageV: 2.44 })).toEqual(['cutoffPassed']);
    expect(codes(0, { voltageV: 3.71 })).toEqual(['voltageHigh']);
    expect(codes(2, { currentA: -20.2 })).toEqual(['currentOff']);
    expect(codes(2, { currentA: -20.8, temperatureC: 61 })).toEqual(['hotOnDischarge']);
  });
});

describe('answers for like cells', () => {
  const all = startQuestions({
    program: programOf(SHIPPED_RECIPES[0]!.steps, CONDITIONS),
    driven: false,
    limits: { ...LIMITS, fuseA: 40 },
  });
  const given = (channelId: number, answeredFor: 'cell' | 'set' = 'cell') =>
    all.map((question) => ({ question, answeredFor, channelId }));
  it('never settle what is of the cell: polarity, leads, counters', () => {
    const settled = answeredBefore(all, given(1), 1);
    for (const own of ['polarity', 'leadsTight', 'countersZero'] as const) {
      expect(all).toContain(own);
      expect(settled).not.toContain(own);
    }
  });
  it('settle what is of a channel on that channel only, and are not carried on from a carry', () => {
    expect(answeredBefore(all, given(1), 1)).toContain('cutoffOnInstrument');
    expect(answeredBefore(all, given(1), 2)).toEqual(['nothingFlammable']);
    expect(answeredBefore(all, given(1, 'set'), 1)).toEqual([]);
    expect(answeredBefore(all, [], 1)).toEqual([]);
  });
});

describe('calendar file', () => {
  it('folds long lines and keeps commas', () => {
    const text = calendarFile(
      'Bench',
      [
        {
          uid: 'leg-1@bench',
          start: new Date('2026-03-02T08:00:00Z'),
          end: new Date('2026-03-02T08:15:00Z'),
          title: 'Connect B-0101, B-0102',
          description:
            'Channel 3; first charge.\nStay until the end of it, at about noon, and look at the temperature.',
        },
      ],
      new Date('2026-03-01T12:00:00Z'),
    );
    expect(text).toContain('DTSTART:20260302T080000Z\r\n');
    expect(text).toContain('SUMMARY:Connect B-0101\\, B-0102');
    for (const line of text.split('\r\n'))
      expect(new TextEncoder().encode(line).length).toBeLessThanOrEqual(75);
    expect(text.replace(/\r\n /g, '')).toContain('first charge.\\nStay until');
  });
});

describe('a string under load', () => {
  const step = {
    stateOfChargePct: 70,
    lowA: 30,
    highA: 60,
    lowV: [3.28, 3.281, 3.279, 3.28, 3.28, 3.281, 3.28, 3.279],
    highV: [3.262, 3.263, 3.26, 3.262, 3.226, 3.263, 3.261, 3.261],
    jointC: [24, 24.5, 25, 33, 26, 25, 24, 24],
  };
  it('finds sag, ΔV / ΔI and power of each cell, and the one that stands out', () => {
    const found = loadTestStep(step);
    expect(found.cells[0]!.sagV).toBeCloseTo(0.018, 9);
    expect(found.cells[0]!.mohm).toBeCloseTo(0.6, 9);
    expect(found.cells[0]!.watts).toBeCloseTo(195.72, 6);
    expect(found.cells.filter(({ standsOut }) => standsOut).map(({ place }) => place)).toEqual([5]);
    expect(found.spreadV).toBeCloseTo(0.037, 9);
  });
  it('finds the joint that is hot by itself, not the one beside it', () => {
    expect(loadTestStep(step).hotJoints).toEqual([{ joint: 4, celsius: 33, aboveK: 7 }]);
  });
  it('says how sure each resistance is, as throwing dice on the readings does', () => {
    const random = seededRandom(4);
    const drawn: number[] = [];
    for (let i = 0; i < 4000; i++) {
      const digit = () => (random.uniform() - 0.5) * 0.001;
      const gain = 1 + 0.01 * (2 * random.uniform() - 1);
      drawn.push(((3.28 + digit() - 3.226 - digit()) / (30 * gain)) * 1000);
    }
    const mean = drawn.reduce((sum, one) => sum + one, 0) / drawn.length;
    const deviation = Math.sqrt(
      drawn.reduce((sum, one) => sum + (one - mean) ** 2, 0) / (drawn.length - 1),
    );
    expect(loadTestStep(step).cells[4]!.mohmU / deviation).toBeCloseTo(1, 1);
    const finer = loadTestStep({ ...step, lastDigitV: 0.0001, currentPct: 0.1 });
    expect(finer.cells[4]!.mohmU).toBeLessThan(loadTestStep(step).cells[4]!.mohmU / 5);
  });
  it('the highest load it stood is the highest without a hot joint', () => {
    const cool = { highA: 30, result: { hotJoints: [] } };
    const hot = { highA: 60, result: loadTestStep(step) };
    expect(rateStood([cool, hot], 100)).toEqual({ amps: 30, it: 0.3 });
    expect(rateStood([hot], 100)).toBeNull();
    expect(rateStood([cool], 0)).toBeNull();
  });
  it('a pack gives what its weakest cell can, plus what balancing moved', () => {
    const weakest = { ah: 100, u: 0.5, name: 'B-0104' };
    expect(packAgainstWeakest({ ah: 99.5, u: 0.5 }, weakest, 0).says).toBe('agrees');
    expect(packAgainstWeakest({ ah: 103, u: 0.5 }, weakest, 0)).toMatchObject({ says: 'more' });
    expect(packAgainstWeakest({ ah: 103, u: 0.5 }, weakest, 2.5).says).toBe('agrees');
    const less = packAgainstWeakest({ ah: 95, u: 0.5 }, weakest, 0);
    expect(less.differenceAh).toBe(-5);
    expect(less.expandedAh).toBeCloseTo(2 * Math.SQRT1_2, 9);
    expect(less.sentence).toContain('5.0 Ah (U 1.4 Ah) less than its weakest cell');
    expect(() => packAgainstWeakest({ ah: -1, u: 0 }, weakest, 0)).toThrow(RangeError);
  });
  it('whatever the pack gave, exactly one of the three is said, and more never turns to less', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 300, noNaN: true }),
        fc.double({ min: 0, max: 5, noNaN: true }),
        fc.double({ min: 0, max: 10, noNaN: true }),
        (ah, u, balanced) => {
          const order = { less: 0, agrees: 1, more: 2, open: NaN };
          const says = (given: number) =>
            order[packAgainstWeakest({ ah: given, u }, { ah: 100, u, name: 'A' }, balanced).says];
          expect(says(ah)).toBeLessThanOrEqual(says(ah + 1));
        },
      ),
    );
  });
  it('is refused without two loads or with a cell not read', () => {
    expect(() => loadTestStep({ ...step, highA: 30 })).toThrow('second load');
    expect(() => loadTestStep({ ...step, highV: step.highV.slice(1) })).toThrow('as many');
    expect(() => loadTestStep({ ...step, lowV: [NaN, ...step.lowV.slice(1)] })).toThrow('cell 1');
  });
});
