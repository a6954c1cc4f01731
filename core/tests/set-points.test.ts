import { describe, expect, it } from 'vitest';
import { ALARMS, newRun, type ProgramStep, type RunState, setPointOf } from '../src/bench';
import { ALARM_CODES, EVENT_KINDS } from '../src/bench/record-lists';

const LOW_V = 2.5;
const at = (step: ProgramStep, more: Partial<RunState> = {}) =>
  setPointOf(step, { ...newRun(), phase: 'running', ...more }, LOW_V);
const BOUNDS = { maxS: 3600, endsByTime: false, limitAh: null };

describe('what the instruments are set to', () => {
  it('a charge: its current, up to its voltage', () => {
    expect(at({ kind: 'charge', amps: 20, limitV: 3.65, taperA: 2, ...BOUNDS })).toEqual({
      kind: 'charge',
      amps: 20,
      volts: 3.65,
    });
  });

  it.each([
    ['current', 20.8],
    ['power', 66],
    ['resistor', 0.15],
  ] as const)('a discharge at a steady %s: down to its own cut-off', (mode, set) => {
    expect(at({ kind: 'discharge', mode, set, cutoffV: 2.8, ...BOUNDS })).toEqual({
      kind: 'discharge',
      mode,
      set,
      cutoffV: 2.8,
    });
  });

  it('a pulse begins with its first current, held by the lowest voltage of the model', () => {
    expect(at({ kind: 'pulse', firstA: 10, firstS: 10, secondA: 50, secondS: 1 })).toEqual({
      kind: 'discharge',
      mode: 'current',
      set: 10,
      cutoffV: LOW_V,
    });
  });

  it('to storage: whichever way is settled, nothing before it is', () => {
    const step: ProgramStep = { kind: 'toStorage', amps: 10, targetV: 3.3, maxS: 3600 };
    expect(at(step)).toEqual({ kind: 'off' });
    expect(at(step, { storage: 'charge' })).toEqual({ kind: 'charge', amps: 10, volts: 3.3 });
    expect(at(step, { storage: 'discharge' })).toEqual({
      kind: 'discharge',
      mode: 'current',
      set: 10,
      cutoffV: 3.3,
    });
  });

  it('off where a cell rests or is measured', () => {
    expect(at({ kind: 'rest', seconds: 600 })).toEqual({ kind: 'off' });
    expect(at({ kind: 'measure', what: 'acResistance' })).toEqual({ kind: 'off' });
  });

  it('a new run has given and taken nothing, and shares nothing with another', () => {
    const [one, other] = [newRun(), newRun()];
    expect(one).toMatchObject({ phase: 'waiting', step: 0, givenAh: 0, takenAh: 0, last: null });
    one.said.push('x');
    one.recent.push({} as never);
    expect(other).toMatchObject({ said: [], recent: [] });
  });
});

describe('what a record may hold', () => {
  it('every alarm has a title, an advice and an action, and its code is taken', () => {
    expect(ALARM_CODES.length).toBeGreaterThan(5);
    expect(new Set(ALARM_CODES).size).toBe(ALARM_CODES.length);
    for (const code of ALARM_CODES) {
      expect(ALARMS[code].title, code).not.toBe('');
      expect(ALARMS[code].advice, code).not.toBe('');
    }
  });

  it('every kind of event once', () => {
    expect(new Set(EVENT_KINDS).size).toBe(EVENT_KINDS.length);
    expect(EVENT_KINDS).toContain('ended');
  });
});
