import { describe, expect, it } from 'vitest';
import {
  ampsOf,
  programOf,
  type ProgramStep,
  type RecipeConditions,
  type RecipeStep,
} from '../src/bench';
import { CONDITIONS } from '../testing/bench-conditions';
import { CHARGE, DISCHARGE, half, PULSE } from '../testing/recipe-parts';

const one = (step: RecipeStep, more: Partial<RecipeConditions> = {}): ProgramStep =>
  programOf([step], { ...CONDITIONS, ...more })[0]!;
describe('a current as a recipe writes it', () => {
  it.each([
    [{ in: 'A', value: 7 }, 7],
    [{ in: 'It', value: 0.5 }, 52],
    [{ in: 'claimRate' }, 20.8],
    [{ in: 'claimMaximum' }, 104],
  ] as const)('%j is %d A', (current, amps) =>
    expect(ampsOf(current, CONDITIONS)).toBeCloseTo(amps, 9),
  );
  it('without a stated maximum half of It is taken', () =>
    expect(ampsOf({ in: 'claimMaximum' }, { ...CONDITIONS, maxChargeA: null })).toBe(52));
});

describe('steps with every number settled', () => {
  it('a charge takes the model’s voltage, and patience of 1.6 times its time and two hours', () => {
    expect(one(CHARGE)).toEqual({
      kind: 'charge',
      amps: 52,
      limitV: 3.65,
      taperA: 5.2,
      // 104 Ah at 52 A: 2 h; 1.6 times that is 3.2 h.
      maxS: 3.2 * 3600 + 7200,
      endsByTime: false,
      limitAh: null,
    });
  });
  it('a short one has three hours at least; a time of its own is an end', () => {
    expect(one({ ...CHARGE, current: { in: 'It', value: 1 } })).toMatchObject({
      maxS: 3 * 3600 + 7200,
    });
    expect(one({ ...CHARGE, maxHours: 0.5, limitV: 3.5, limitAh: 30 })).toMatchObject({
      maxS: 1800,
      endsByTime: true,
      limitV: 3.5,
      limitAh: 30,
    });
  });
  it('a discharge by current, power or into a resistor is given the time its mean current takes', () => {
    expect(one(DISCHARGE)).toMatchObject({
      mode: 'current',
      set: 20.8,
      cutoffV: 2.5,
      maxS: 8 * 3600,
      endsByTime: false,
    });
    // Half way between 3.65 and 2.5 V: 61.5 W are 20 A, 0.15 Ω are 20.5 A.
    expect(one({ ...DISCHARGE, load: { by: 'power', watts: 61.5 } })).toMatchObject({
      mode: 'power',
      set: 61.5,
    });
    const maxS = (load: Extract<RecipeStep, { kind: 'discharge' }>['load']) =>
      (one({ ...DISCHARGE, load }) as { maxS: number }).maxS;
    expect(maxS({ by: 'power', watts: 61.5 })).toBeCloseTo((1.6 * 104 * 3600) / 20, 6);
    expect(maxS({ by: 'resistor', ohm: 0.15 })).toBeCloseTo((1.6 * 104 * 3600) / 20.5, 6);
    expect(one({ ...DISCHARGE, cutoffV: 2.8, maxHours: 2, limitAh: 40 })).toMatchObject({
      cutoffV: 2.8,
      maxS: 7200,
      endsByTime: true,
      limitAh: 40,
    });
  });
  it('rests, pulses, measurements and the way to storage', () => {
    expect(one({ kind: 'rest', minutes: 90 })).toEqual({ kind: 'rest', seconds: 5400 });
    const { firstA, secondA, ...rest } = one(PULSE) as Extract<ProgramStep, { kind: 'pulse' }>;
    expect([firstA, secondA]).toEqual([expect.closeTo(20.8, 9), 104]);
    expect(rest).toEqual({ kind: 'pulse', firstS: 10, secondS: 1 });
    expect(one({ kind: 'measure', what: 'mass' })).toEqual({ kind: 'measure', what: 'mass' });
    expect(one({ kind: 'toStorage', current: half })).toEqual({
      kind: 'toStorage',
      amps: 52,
      targetV: 3.275,
      maxS: 3.2 * 3600,
    });
  });
  it('repeats are counted out, one in another too', () => {
    const rest = { kind: 'rest', minutes: 1 } as const;
    const twice = { kind: 'repeat', times: 2, steps: [CHARGE, rest] } as const;
    const program = programOf(
      [
        rest,
        { kind: 'repeat', times: 3, steps: [{ ...twice, steps: [...twice.steps] }, DISCHARGE] },
      ],
      CONDITIONS,
    );
    expect(program.map(({ kind }) => kind[0]).join('')).toBe('r' + 'crcrd'.repeat(3));
  });
});
