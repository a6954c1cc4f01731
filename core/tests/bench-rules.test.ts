import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { GATES, mayGoOnTester } from '../src/arrivals';
import {
  attendanceS,
  channelProblem,
  courseS,
  dischargeLine,
  expectedCourse,
  limitedToReach,
  programOf,
  type ProgramStep,
  reachOf,
  SHIPPED_RECIPES,
  unattendedNeeds,
  unattendedReasons,
} from '../src/bench';
import { CHANNEL_LIMITS as LIMITS, CONDITIONS } from '../testing/bench-conditions';

const claimCheck = programOf(SHIPPED_RECIPES[0]!.steps, CONDITIONS);
const CELL = { chemistry: 'LFP', capacityAh: 104, stateOfCharge: 0.3, tauS: null } as const;
const course = expectedCourse(claimCheck, CELL);
const REST: ProgramStep = { kind: 'rest', seconds: 3600 };

describe('left alone', () => {
  const run = {
    program: claimCheck,
    course,
    limits: LIMITS,
    attendedOnly: false,
    isKnown: true,
    attendedForS: 0,
  };
  const codes = (more: Partial<typeof run>) =>
    unattendedReasons({ ...run, ...more }).map(({ code }) => code);

  it('a known cell on a channel with cut-off and fuse may be', () => expect(codes({})).toEqual([]));
  it('needs a cut-off of its own only where it discharges, a fuse always', () => {
    const bare = { enforcesCutoff: false, fuseA: null };
    expect(unattendedNeeds(claimCheck, bare).map(({ code }) => code)).toEqual([
      'noCutoff',
      'noFuse',
    ]);
    expect(unattendedNeeds([claimCheck[0]!], bare).map(({ code }) => code)).toEqual(['noFuse']);
  });
  it('what outlasts the hours somebody is there counts as left alone', () => {
    const noFuse = { ...LIMITS, fuseA: null };
    const wholeS = courseS(course);
    expect(codes({ limits: noFuse, attendedForS: wholeS })).toEqual([]);
    expect(codes({ limits: noFuse, attendedForS: wholeS - 1 })).toEqual(['noFuse']);
  });
  it('the first charge of a cell nobody knows is watched from its start to its end', () => {
    const chargeS = course[0]!.toS;
    expect(attendanceS(course, { attendedOnly: false, isKnown: false })).toBe(chargeS);
    expect(codes({ isKnown: false, attendedForS: chargeS - 60 })).toEqual(['unattended']);
    expect(codes({ isKnown: false, attendedForS: chargeS })).toEqual([]);
    expect(unattendedReasons({ ...run, isKnown: false, attendedForS: 3600 })[0]!.text).toContain(
      'somebody is there for 1:00 h',
    );
  });
  it('a charge to storage of a cell nobody knows is a first charge as well', () => {
    const program: ProgramStep[] = [
      REST,
      { kind: 'toStorage', targetV: 3.3, amps: 10, maxS: 36_000 },
    ];
    const up = expectedCourse(program, { ...CELL, stateOfCharge: 0.05 });
    expect(attendanceS(up, { attendedOnly: false, isKnown: false })).toBe(courseS(up));
    const down = expectedCourse(program, { ...CELL, stateOfCharge: 0.95 });
    expect(attendanceS(down, { attendedOnly: false, isKnown: false })).toBe(0);
  });
  it('a recipe for attended hours is watched whole', () => {
    expect(attendanceS(course, { attendedOnly: true, isKnown: true })).toBe(courseS(course));
    expect(codes({ attendedOnly: true, attendedForS: courseS(course) - 1 })).toEqual([
      'unattended',
    ]);
  });
});

describe('what a channel reaches', () => {
  const claim = { chemistry: 'LFP', maxChargeA: null, maxDischargeA: 12 } as const;
  it('is held by the claim each way for itself', () => {
    const reach = reachOf(LIMITS, claim);
    expect(reach.discharge).toMatchObject({ amps: 12 });
    expect(reach.discharge.limit).toContain('claim');
    expect(reach.charge.amps).toBeGreaterThan(12);
  });
  it('a step held to it still moves its charge in its time, and never exceeds it', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.5, max: 60, noNaN: true }),
        fc.double({ min: 0.5, max: 60, noNaN: true }),
        (charge, discharge) => {
          const reach = { charge: { amps: charge }, discharge: { amps: discharge } };
          for (const step of claimCheck) {
            const held = limitedToReach(step, reach);
            if (step.kind === 'charge' && held.kind === 'charge') {
              expect(held.amps).toBeLessThanOrEqual(Math.max(charge, 0));
              expect(held.amps * held.maxS).toBeCloseTo(step.amps * step.maxS, 3);
              expect(held.taperA).toBeLessThanOrEqual(step.taperA);
              expect(held.taperA).toBeLessThan(held.amps);
            } else if (step.kind === 'discharge' && held.kind === 'discharge') {
              expect(held.set).toBe(Math.min(step.set, discharge));
              expect(held.set * held.maxS).toBeCloseTo(step.set * step.maxS, 3);
            } else if (step.kind === 'toStorage' && held.kind === 'toStorage') {
              expect(held.amps).toBe(Math.min(step.amps, charge, discharge));
              expect(held.amps * held.maxS).toBeCloseTo(step.amps * step.maxS, 3);
            } else expect(held).toEqual(step);
          }
        },
      ),
    );
  });
  it('a step that ends by time keeps its time', () => {
    const step: ProgramStep = {
      ...(claimCheck.find(({ kind }) => kind === 'discharge') as Extract<
        ProgramStep,
        { kind: 'discharge' }
      >),
      endsByTime: true,
    };
    const held = limitedToReach(step, { charge: { amps: 1 }, discharge: { amps: 1 } });
    expect(held).toMatchObject({ set: 1, maxS: step.kind === 'discharge' ? step.maxS : 0 });
  });
  it.each<[string, Partial<typeof LIMITS>]>([
    ['it cannot charge', { canCharge: false }],
    ['it cannot discharge', { canDischarge: false }],
    ['it takes at most 3 V', { maxV: 3 }],
    ['it sets no less than 30 A', { minA: 30 }],
  ])('%s', (problem, more) =>
    expect(channelProblem(claimCheck, { ...LIMITS, ...more }, CONDITIONS)).toBe(problem),
  );
  it('nothing is wrong with a channel that can', () =>
    expect(channelProblem(claimCheck, LIMITS, CONDITIONS)).toBeNull());
});

describe('the gate to a tester', () => {
  it('opens for two words and for nothing else, known or not', () => {
    expect(GATES.filter(mayGoOnTester)).toEqual(['open', 'ready']);
    for (const unknown of [null, undefined, '', 'Ready', 'sold', 'toString'])
      expect(mayGoOnTester(unknown)).toBe(false);
  });
});

describe('the discharge of a run', () => {
  it('counts charge over its last discharge alone', () => {
    const point = (seq: number, step: number, timeS: number, currentA: number) => ({
      seq,
      step,
      timeS,
      currentA,
      voltageV: 3.2,
      temperatureC: null,
    });
    const points = [
      point(1, 0, 0, -2),
      point(2, 0, 3600, -2),
      point(3, 1, 3700, 0),
      point(4, 2, 4000, -1),
      point(5, 2, 7600, -1),
      point(6, 2, 11_200, -1),
      point(7, 3, 11_300, 0),
    ];
    const line = dischargeLine(points, ['discharge', 'rest', 'discharge', 'rest']);
    expect(line.map(({ ah }) => ah)).toEqual([0, 1, 2]);
    expect(dischargeLine(points, ['rest', 'rest', 'rest', 'rest'])).toEqual([]);
  });
});
