import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  type Advance,
  alarm,
  answerCame,
  endRun,
  pauseRun,
  programOf,
  readingCame,
  type RecipeStep,
  resumeRun,
  type RunEvent,
  type SetPoint,
  SHIPPED_RECIPES,
  startRun,
} from '../src/bench';
import {
  advance,
  type CellParameters,
  restedState,
  terminalVoltage,
  typicalCell,
} from '../src/simulator';
import { CONDITIONS as LARGE } from '../testing/bench-conditions';

const CONDITIONS = { ...LARGE, ratedAh: 6, maxChargeA: 6, maxDischargeA: 12 };
const LIMITS = { highV: 3.65, lowV: 2, ambientC: 22, intervalS: 10 };

/** Runs a program on a simulated cell whose instruments do as they are told. */
function play(
  steps: readonly RecipeStep[],
  cell: CellParameters,
  { soc = 0.4, mostS = 400_000 } = {},
) {
  const plan = { program: programOf(steps, CONDITIONS), limits: LIMITS };
  let state = restedState(soc, 22);
  let timeS = 0;
  let set = { kind: 'off' } as SetPoint;
  const events: RunEvent[] = [];
  const take = (step: Advance) => {
    if (step.set) set = step.set;
    events.push(...step.events);
    return step.state;
  };
  let run = take(startRun(plan));
  while (run.phase === 'running' && timeS < mostS) {
    const open = terminalVoltage(cell, state, 0);
    const ohm = terminalVoltage(cell, state, 1) - open;
    let currentA = 0;
    if (set.kind === 'charge') currentA = Math.max(0, Math.min(set.amps, (set.volts - open) / ohm));
    if (set.kind === 'discharge') {
      currentA =
        set.mode === 'resistor'
          ? -open / (set.set + ohm)
          : set.mode === 'power'
            ? -set.set / open
            : -set.set;
      if (terminalVoltage(cell, state, currentA) <= set.cutoffV) {
        currentA = 0;
        set = { kind: 'off' };
      }
    }
    const voltageV = terminalVoltage(cell, state, currentA);
    run = take(
      readingCame(plan, run, { timeS, voltageV, currentA, temperatureC: state.temperatureC }),
    );
    const asked = plan.program[run.step];
    if (run.phase === 'running' && asked?.kind === 'measure')
      run = take(answerCame(plan, run, 1, timeS));
    state = advance(cell, state, { currentA, durationS: 10, ambientC: 22 });
    timeS += 10;
  }
  return { run, events, timeS, state, set };
}

const ended = (events: RunEvent[]) => events.find((one) => one.event === 'ended');
const alarms = (events: RunEvent[]) =>
  events.flatMap((one) => (one.event === 'alarm' ? [one.code] : []));

describe('a run', () => {
  it.each(SHIPPED_RECIPES.filter(({ purpose }) => purpose !== 'retention'))(
    'goes through $name',
    (recipe) => {
      const { events, run, set } = play(recipe.steps, typicalCell('LFP', 6));
      expect(alarms(events)).toEqual([]);
      expect(ended(events)).toMatchObject({ completed: true });
      expect(set).toEqual({ kind: 'off' });
      expect(run.givenAh + run.takenAh).toBeGreaterThan(0.2);
    },
  );
  it('gives the capacity of its cell, however small the steps are', () => {
    const { events, run } = play(SHIPPED_RECIPES[0]!.steps.slice(0, 3), typicalCell('LFP', 5.7), {
      soc: 0.1,
    });
    const given = events.find((one) => one.event === 'stepEnded' && one.step === 2) as Extract<
      RunEvent,
      { event: 'stepEnded' }
    >;
    expect(given.ah).toBeGreaterThan(5.5);
    expect(given.ah).toBeLessThan(5.75);
    expect(run.givenAh).toBeCloseTo(given.ah, 1);
    expect(given.reason).toContain('cut-off');
  });
  it('stops a cell that heats on charge and blocks it', () => {
    const heater = { ...typicalCell('NMC', 6), heaterWPerA2: 0.6, chemistry: 'LFP' as const };
    const { events, set } = play(SHIPPED_RECIPES[0]!.steps, heater);
    expect(events.find((one) => one.event === 'alarm')).toMatchObject({
      code: 'heatOnCharge',
      action: 'block',
    });
    expect(ended(events)).toMatchObject({ completed: false });
    expect(set).toEqual({ kind: 'off' });
  });
  it('goes on after a pause where it was', () => {
    const plan = {
      program: programOf([{ kind: 'rest', minutes: 10 }], CONDITIONS),
      limits: LIMITS,
    };
    const still = (timeS: number) => ({ timeS, voltageV: 3.3, currentA: 0, temperatureC: 22 });
    let { state } = readingCame(plan, startRun(plan).state, still(0));
    state = readingCame(plan, state, still(300)).state;
    state = pauseRun(state, 'asked to').state;
    expect(readingCame(plan, state, still(5000)).state.phase).toBe('paused');
    state = resumeRun(plan, state, 6000).state;
    expect(readingCame(plan, state, still(6200)).state.phase).toBe('running');
    expect(readingCame(plan, state, still(6310)).state.phase).toBe('ended');
  });
  it('ends once, whatever comes after', () => {
    const plan = {
      program: programOf([{ kind: 'rest', minutes: 10 }], CONDITIONS),
      limits: LIMITS,
    };
    const begun = startRun(plan).state;
    const stop = endRun(begun, 'asked to', alarm('noReadings', 'nothing for 30 s'));
    expect(stop.events.map(({ event }) => event)).toEqual(['alarm', 'ended']);
    expect(endRun(stop.state, 'again').events).toEqual([]);
    expect(pauseRun(stop.state, 'again').events).toEqual([]);
    expect(resumeRun(plan, stop.state, 5).events).toEqual([]);
    expect(answerCame(plan, stop.state, 3, 5).events).toEqual([]);
  });
  it('says a clock that jumps, and never counts charge backwards', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            timeS: fc.integer({ min: 0, max: 100_000 }),
            amps: fc.double({ min: -6, max: 6, noNaN: true }),
          }),
          { minLength: 2, maxLength: 40 },
        ),
        (list) => {
          const plan = {
            program: programOf([{ kind: 'rest', minutes: 90 * 24 * 60 }], CONDITIONS),
            limits: LIMITS,
          };
          let { state } = startRun(plan);
          let before = 0;
          for (const { timeS, amps } of list) {
            const step = readingCame(plan, state, {
              timeS,
              voltageV: 3.3,
              currentA: amps,
              temperatureC: null,
            });
            expect(step.state.givenAh).toBeGreaterThanOrEqual(state.givenAh);
            expect(step.state.takenAh).toBeGreaterThanOrEqual(state.takenAh);
            if (timeS < before && !state.said.includes('clockJump'))
              expect(alarms(step.events)).toContain('clockJump');
            state = step.state;
            before = timeS;
          }
        },
      ),
      { numRuns: 60 },
    );
  });

  it('a pulse is held by the lowest voltage of the model at the load itself, in both its parts', () => {
    const program = [
      { kind: 'pulse' as const, firstA: 10, firstS: 10, secondA: 40, secondS: 10, maxS: 20 },
    ];
    const plan = { program: program as never, limits: LIMITS };
    const begun = startRun(plan);
    expect(begun.set).toMatchObject({ set: 10, cutoffV: LIMITS.lowV });
    const second = readingCame(plan, begun.state, {
      timeS: 11,
      voltageV: 3.2,
      currentA: -10,
      temperatureC: 22,
    });
    expect(second.set).toMatchObject({ set: 40, cutoffV: LIMITS.lowV });
    const paused = pauseRun(second.state, 'A look at it.').state;
    expect(resumeRun(plan, paused, 20).set).toMatchObject({ cutoffV: LIMITS.lowV });
  });
});

describe('a stretch in which nobody looked', () => {
  const plan = {
    program: [
      {
        kind: 'discharge',
        mode: 'current',
        set: 1.2,
        cutoffV: 2.5,
        limitAh: null,
        maxS: 50_000,
        endsByTime: false,
      } as const,
    ],
    limits: LIMITS,
  };
  const reading = (timeS: number, counterAh: number | null) => ({
    timeS,
    voltageV: 3.2,
    currentA: -1.2,
    temperatureC: 22,
    counterAh,
  });
  /** Two readings, five hours without any, and one more. */
  const after = (counted: number | null) => {
    let { state } = startRun(plan);
    for (const [t, ah] of [
      [10, 0.003],
      [20, 0.006],
    ] as const)
      ({ state } = readingCame(plan, state, reading(t, counted === null ? null : ah)));
    return readingCame(plan, state, reading(18_020, counted)).state;
  };

  it('counts by the load’s own counter, and a load that stood still took no time', () => {
    const stood = after(0.006);
    expect(stood.stepAh).toBeLessThan(0.01);
    expect(18_020 - stood.stepSinceS).toBeLessThan(40);
    const went = after(6.006);
    expect(went.stepAh).toBeCloseTo(6.003, 2);
    expect(18_020 - went.stepSinceS).toBeCloseTo(18_020, -1);
  });

  it('without a counter the limits of the step count the whole stretch, to be safe', () => {
    expect(after(null).stepAh).toBeCloseTo((1.2 * 18_010) / 3600, 2);
  });
});
