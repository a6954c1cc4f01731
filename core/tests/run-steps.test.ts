import { describe, expect, it } from 'vitest';
import {
  type Advance,
  alarm,
  answerCame,
  endRun,
  pauseRun,
  type ProgramStep,
  readingCame,
  resumeRun,
  type RunEvent,
  startRun,
} from '../src/bench';

const LIMITS = { highV: 3.65, lowV: 2, ambientC: 22, intervalS: 10 };
const REST = { kind: 'rest', seconds: 30 } as const;
const CHARGE = {
  kind: 'charge',
  amps: 10,
  limitV: 3.65,
  taperA: 1,
  maxS: 3600,
  endsByTime: false,
  limitAh: null,
} as const;
const DISCHARGE = {
  kind: 'discharge',
  mode: 'current',
  set: 10,
  cutoffV: 2.5,
  maxS: 3600,
  endsByTime: false,
  limitAh: null,
} as const;
const PULSE = { kind: 'pulse', firstA: 2, firstS: 10, secondA: 10, secondS: 20 } as const;
const STORAGE = { kind: 'toStorage', amps: 5, targetV: 3.3, maxS: 600 } as const;

/** A reading every ten seconds: voltage and current, discharge negative. */
type Reading = [voltageV: number, currentA: number];

/** A run of a program that is told readings one by one. */
class Told {
  readonly plan;
  private advance: Advance;
  readonly events: RunEvent[] = [];
  timeS = 0;

  constructor(program: ProgramStep[]) {
    this.plan = { program, limits: LIMITS };
    this.advance = this.take(startRun(this.plan));
  }
  get state() {
    return this.advance.state;
  }
  get set() {
    return this.advance.set;
  }
  take(advance: Advance): Advance {
    this.events.push(...advance.events);
    return (this.advance = advance);
  }
  read(...readings: Reading[]): this {
    for (const [voltageV, currentA] of readings) {
      this.take(
        readingCame(this.plan, this.state, {
          timeS: this.timeS,
          voltageV,
          currentA,
          temperatureC: 23,
        }),
      );
      this.timeS += 10;
    }
    return this;
  }
  /** Why steps ended, in order. */
  get reasons() {
    return this.events.flatMap((one) => (one.event === 'stepEnded' ? [one.reason] : []));
  }
  get alarms() {
    return this.events.flatMap((one) => (one.event === 'alarm' ? [one.code] : []));
  }
}

const times = (n: number, reading: Reading): Reading[] => Array.from({ length: n }, () => reading);

describe('a step ends by itself', () => {
  it('a rest after its time, and the recipe after its last step', () => {
    const run = new Told([REST]).read(...times(3, [3.3, 0]));
    expect(run.reasons).toEqual([]);
    expect(run.set).toBeNull();
    run.read([3.3, 0]);
    expect(run.reasons).toEqual(['time']);
    expect(run.set).toEqual({ kind: 'off' });
    expect(run.events.at(-1)).toEqual({
      event: 'ended',
      reason: 'The recipe is done.',
      completed: true,
    });
  });

  it('a charge by its taper, near its voltage only, and not by its first readings', () => {
    // A meter that has not settled shows little current at first.
    expect(new Told([CHARGE]).read([3.64, 0.5], [3.64, 0.5]).reasons).toEqual([]);
    expect(new Told([CHARGE]).read(...times(3, [3.64, 0.5])).reasons).toEqual(['taper']);
    expect(new Told([CHARGE]).read(...times(9, [3.61, 0.5])).reasons).toEqual([]);
    expect(new Told([CHARGE]).read(...times(9, [3.64, 1.01])).reasons).toEqual([]);
    expect(new Told([CHARGE]).read(...times(3, [3.64, 1])).reasons).toEqual(['taper']);
  });

  it('a charge and a discharge by the charge that is enough', () => {
    // 10 A for 10 s are 0.02778 Ah; 0.1 Ah are reached by the fifth reading.
    for (const [step, reading] of [
      [{ ...CHARGE, limitAh: 0.1 }, [3.4, 10]],
      [{ ...DISCHARGE, limitAh: 0.1 }, [3.2, -10]],
    ] as const) {
      const run = new Told([step]).read(...times(4, [...reading]));
      expect(run.reasons).toEqual([]);
      run.read([...reading]);
      expect(run.reasons).toEqual(['charge limit']);
      expect(run.events.find(({ event }) => event === 'stepEnded')).toMatchObject({
        ah: expect.closeTo(0.1111, 4),
      });
    }
  });

  it('a discharge at its cut-off, or where the instrument switched off by itself near it', () => {
    expect(new Told([DISCHARGE]).read([3, -10], [2.5, -10]).reasons).toEqual(['cut-off']);
    expect(new Told([DISCHARGE]).read([3, -10], [2.501, -10]).reasons).toEqual([]);
    const recovered = new Told([DISCHARGE]).read(...times(3, [2.6, -10]), [3.1, 0]);
    expect(recovered.reasons).toEqual(['cut-off at the instrument']);
    // As high as that it never came near its cut-off: the current is missing for another reason.
    const high = new Told([DISCHARGE]).read(...times(3, [3.3, -10]), [3.3, 0]);
    expect(high.reasons).toEqual([]);
    // Before anything flowed there was nothing to switch off.
    expect(new Told([DISCHARGE]).read(...times(5, [3.1, 0])).reasons).toEqual([]);
  });

  it('by its time: one that was wanted is no alarm, one that was not is', () => {
    const wanted = new Told([{ ...DISCHARGE, maxS: 30, endsByTime: true }]);
    expect(wanted.read(...times(4, [3.2, -10])).reasons).toEqual(['time']);
    expect(wanted.alarms).toEqual([]);
    const late = new Told([{ ...DISCHARGE, maxS: 30 }, REST]).read(...times(4, [3.2, -10]));
    expect(late.reasons).toEqual(['time limit']);
    expect(late.alarms).toEqual(['stepTooLong']);
    expect(late.state).toMatchObject({ phase: 'running', step: 1, stepAh: 0, said: [] });
  });

  it('a pulse goes from its first current to its second once, and ends after both', () => {
    const run = new Told([PULSE, REST]);
    expect(run.set).toEqual({ kind: 'discharge', mode: 'current', set: 2, cutoffV: 2 });
    run.read([3.2, -2]);
    expect(run.set).toBeNull();
    run.read([3.2, -2]);
    expect(run.set).toEqual({ kind: 'discharge', mode: 'current', set: 10, cutoffV: 2 });
    run.read([3.1, -10]);
    expect(run.set).toBeNull();
    run.read([3.1, -10]);
    expect(run.reasons).toEqual(['time']);
    expect(run.set).toEqual({ kind: 'off' });
  });

  it('a measuring step asks, waits for as long as it takes, and goes on with its answer', () => {
    const run = new Told([{ kind: 'measure', what: 'mass' }, REST]);
    expect(run.events.at(-1)).toEqual({ event: 'ask', step: 0, what: 'mass' });
    run.read(...times(50, [3.3, 0]));
    expect(run.reasons).toEqual([]);
    run.take(answerCame(run.plan, run.state, 1980, run.timeS));
    expect(run.events).toContainEqual({ event: 'measured', step: 0, what: 'mass', value: 1980 });
    expect(run.state).toMatchObject({ step: 1, stepSinceS: 500 });
    // A second answer to the same question changes nothing.
    const before = run.state;
    expect(answerCame(run.plan, before, 7, run.timeS)).toEqual({
      state: before,
      set: null,
      events: [],
    });
  });
});

describe('on the way to storage', () => {
  it('the first reading says which way, and one close enough that there is none', () => {
    expect(new Told([STORAGE]).set).toEqual({ kind: 'off' });
    expect(new Told([STORAGE]).read([3.2, 0]).set).toEqual({ kind: 'charge', amps: 5, volts: 3.3 });
    expect(new Told([STORAGE]).read([3.4, 0]).set).toEqual({
      kind: 'discharge',
      mode: 'current',
      set: 5,
      cutoffV: 3.3,
    });
    for (const at of [3.2951, 3.3049]) {
      const run = new Told([STORAGE]).read([at, 0]);
      expect(run.reasons).toEqual(['storage voltage']);
      expect(run.state.phase).toBe('ended');
    }
    expect(new Told([STORAGE]).read([3.306, 0]).reasons).toEqual([]);
  });
  it('charging ends at a tenth of its current, discharging at its voltage or without a current', () => {
    const up = new Told([STORAGE]).read([3.2, 0], ...times(4, [3.3, 0.51]));
    expect(up.reasons).toEqual([]);
    expect(up.read([3.3, 0.5]).reasons).toEqual(['storage voltage']);
    expect(new Told([STORAGE]).read([3.4, 0], [3.35, -5], [3.3, -5]).reasons).toEqual([
      'storage voltage',
    ]);
    const off = new Told([STORAGE]).read([3.4, 0], [3.35, -5], [3.35, 0]);
    expect(off.reasons).toEqual(['storage voltage']);
  });
  it('one that never comes there ends by its time, with an alarm', () => {
    const run = new Told([{ ...STORAGE, maxS: 60 }]).read([3.4, 0], ...times(6, [3.39, -5]));
    expect(run.reasons).toEqual(['time limit']);
    expect(run.alarms).toEqual(['stepTooLong']);
  });
});

describe('what comes from outside', () => {
  it('a paused run keeps its place: the pause counts neither as time nor as charge', () => {
    const run = new Told([{ ...DISCHARGE, maxS: 100, endsByTime: true }]).read(
      ...times(4, [3.2, -10]),
    );
    const given = run.state.givenAh;
    run.take(pauseRun(run.state, 'the lead is warm'));
    expect(run.set).toEqual({ kind: 'off' });
    expect(run.events.at(-1)).toEqual({ event: 'paused', reason: 'the lead is warm' });
    run.timeS += 3600;
    run.take(resumeRun(run.plan, run.state, run.timeS));
    expect(run.set).toMatchObject({ kind: 'discharge', set: 10 });
    expect(run.state.stepSinceS).toBe(3610);
    run.read([3.2, -10]);
    expect(run.alarms).toEqual([]);
    // Ten seconds of ten amperes at the most since it went on.
    expect(run.state.givenAh - given).toBeLessThanOrEqual(0.0279);
    expect(run.reasons).toEqual([]);
  });
  it('pausing twice, or going on with what is not paused, changes nothing', () => {
    const run = new Told([DISCHARGE]).read([3.2, -10]);
    const going = run.state;
    expect(resumeRun(run.plan, going, 20)).toEqual({ state: going, set: null, events: [] });
    run.take(pauseRun(going, 'once'));
    const paused = run.state;
    expect(pauseRun(paused, 'twice')).toEqual({ state: paused, set: null, events: [] });
    // Readings are taken in all the same.
    run.read([3.25, 0]);
    expect(run.state.phase).toBe('paused');
    expect(run.state.last!.voltageV).toBe(3.25);
  });
  it('an alarm as the cause of a pause or an end stands before it', () => {
    const cause = alarm('stepTooLong', 'It took too long.');
    const run = new Told([DISCHARGE]).read([3.2, -10]);
    expect(pauseRun(run.state, 'why', cause).events.map(({ event }) => event)).toEqual([
      'alarm',
      'paused',
    ]);
    const ended = endRun(run.state, 'why', cause);
    expect(ended.events.map(({ event }) => event)).toEqual(['alarm', 'ended']);
    expect(ended.set).toEqual({ kind: 'off' });
  });
  it('ended once is ended: the instruments are told to be off, and nothing is said again', () => {
    const run = new Told([DISCHARGE]).read([3.2, -10]);
    run.take(endRun(run.state, 'by hand'));
    expect(run.events.at(-1)).toEqual({ event: 'ended', reason: 'by hand', completed: false });
    const { state } = run;
    expect(endRun(state, 'again')).toEqual({ state, set: { kind: 'off' }, events: [] });
    expect(pauseRun(state, 'again')).toEqual({ state, set: null, events: [] });
  });
  it('a clock that goes back, and a time nothing was read in, are told once a step', () => {
    const run = new Told([DISCHARGE]).read([3.2, -10], [3.2, -10]);
    run.timeS += 900;
    run.read([3.2, -10]);
    expect(run.alarms).toEqual(['clockJump']);
    run.timeS += 900;
    run.read([3.2, -10]);
    expect(run.alarms).toEqual(['clockJump']);
    const back = new Told([DISCHARGE]).read([3.2, -10], [3.2, -10]);
    back.timeS = 3;
    expect(back.read([3.2, -10]).alarms).toEqual(['clockJump']);
    // Twenty intervals, and more than a minute.
    const late = new Told([DISCHARGE]).read([3.2, -10]);
    late.timeS = 200;
    expect(late.read([3.2, -10]).alarms).toEqual([]);
  });
});
