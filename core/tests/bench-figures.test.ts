import { describe, expect, it } from 'vitest';
import {
  answeredBefore,
  cableMohm,
  cableRiseK,
  calendarFile,
  claimDifferences,
  coursePoints,
  courseS,
  expectedCourse,
  leadLoss,
  programOf,
  reachableCurrent,
  RecipeProblem,
  type RecipeStep,
  remainingS,
  SHIPPED_RECIPES,
  type StartFacts,
  startQuestions,
  startReasons,
} from '../src/bench';
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
    // 60² A² × 0.0175 Ω·mm²/m / 10 mm² = 6.3 W/m, over π × 5 mm of surface a metre at 10 W/(m²·K).
    expect(cableRiseK(60, 10, 5)).toBeCloseTo(6.3 / (10 * 0.0157079633), 5);
    expect(cableRiseK(60, 10, 10)).toBeCloseTo(cableRiseK(60, 10, 5) / 2, 9);
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
    restsUntil: null,
    isKnown: true,
    attendedForS: 48 * 3600,
    driven: true,
  };
  const codes = (more: Partial<StartFacts>) =>
    startReasons({ ...facts, ...more }).map(({ code }) => code);
  it('nothing is said where nothing is wrong', () => expect(codes({})).toEqual([]));
  it.each<[string, Partial<StartFacts>]>([
    ['inspection', { inspectionClear: false }],
    ['resting', { restsUntil: '2026-12-12' }],
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
