import { describe, expect, it } from 'vitest';
import {
  charges,
  discharges,
  programOf,
  RecipeProblem,
  type RecipeConditions,
  type RecipeStep,
} from '../src/bench';
import { CONDITIONS } from '../testing/bench-conditions';
import { CHARGE, DISCHARGE, half, PULSE } from '../testing/recipe-parts';

/** What is said against steps, and which of them is to blame. */
function problem(
  steps: readonly RecipeStep[],
  more: Partial<RecipeConditions> = {},
): [string, number] {
  try {
    programOf(steps, { ...CONDITIONS, ...more });
  } catch (error) {
    if (error instanceof RecipeProblem) return [error.message, error.step];
    throw error;
  }
  throw new Error('Nothing was said against it.');
}

describe('what no recipe may say', () => {
  it.each<[string, RecipeStep, string]>([
    [
      'a rest before now',
      { kind: 'rest', minutes: -1 },
      'Expected a rest of 0 minutes to 90 days; found -1 min.',
    ],
    [
      'a rest of a year',
      { kind: 'rest', minutes: 525_600 },
      'Expected a rest of 0 minutes to 90 days; found 525600 min.',
    ],
    [
      'a pulse of nothing',
      { ...PULSE, first: { in: 'A', value: 0 } },
      'Expected currents above 0. Expected times above 0 and of at most 2000 h.',
    ],
    [
      'a pulse without a second current',
      { ...PULSE, second: { in: 'A', value: -5 } },
      'Expected currents above 0. Expected times above 0 and of at most 2000 h.',
    ],
    [
      'a pulse of no time',
      { ...PULSE, firstS: 0 },
      'Expected currents above 0. Expected times above 0 and of at most 2000 h.',
    ],
    [
      'a pulse that never ends',
      { ...PULSE, secondS: 1e10 },
      'Expected currents above 0. Expected times above 0 and of at most 2000 h.',
    ],
    [
      'a pulse too strong',
      { ...PULSE, second: { in: 'A', value: 209 } },
      '209.00 A is above the most the claim or the model allows for discharge, 208.00 A.',
    ],
    [
      'a load of nothing',
      { ...DISCHARGE, load: { by: 'resistor', ohm: 0 } },
      'Expected a load above 0.',
    ],
    [
      'a load without end',
      { ...DISCHARGE, load: { by: 'power', watts: Infinity } },
      'Expected a load above 0.',
    ],
    [
      'no time to discharge',
      { ...DISCHARGE, maxHours: 0 },
      'Expected times above 0 and of at most 2000 h.',
    ],
    [
      'a discharge of 2001 h',
      { ...DISCHARGE, maxHours: 2001 },
      'Expected times above 0 and of at most 2000 h.',
    ],
    [
      'a discharge of no charge',
      { ...DISCHARGE, limitAh: 0 },
      'Expected a limit of charge above 0.',
    ],
    [
      'a cut-off near nothing',
      { ...DISCHARGE, cutoffV: 0.49 },
      'Expected a cut-off from 0.5 V to below the charge voltage of 3.65 V; found 0.49 V.',
    ],
    [
      'a cut-off at the charge voltage',
      { ...DISCHARGE, cutoffV: 3.65 },
      'Expected a cut-off from 0.5 V to below the charge voltage of 3.65 V; found 3.65 V.',
    ],
    [
      'a discharge too strong',
      { ...DISCHARGE, load: { by: 'current', current: { in: 'A', value: 210 } } },
      '210.00 A is above the most the claim or the model allows for discharge, 208.00 A.',
    ],
    [
      'a charge of nothing',
      { ...CHARGE, current: { in: 'A', value: 0 } },
      'Expected a current above 0.',
    ],
    [
      'a charge too strong',
      { ...CHARGE, current: { in: 'It', value: 1.1 } },
      '114.40 A is above the most the claim or the model allows for charge, 104.00 A.',
    ],
    [
      'a charge that never tapers',
      { ...CHARGE, taperIt: 0 },
      'Expected the charge to end at a current below the 52.00 A it begins with; found 0.00 A.',
    ],
    [
      'a taper as high as the current',
      { ...CHARGE, taperIt: 0.5 },
      'Expected the charge to end at a current below the 52.00 A it begins with; found 52.00 A.',
    ],
    [
      'no time to charge',
      { ...CHARGE, maxHours: -1 },
      'Expected times above 0 and of at most 2000 h.',
    ],
    ['a charge of no charge', { ...CHARGE, limitAh: -1 }, 'Expected a limit of charge above 0.'],
    [
      'a charge too high',
      { ...CHARGE, limitV: 3.66 },
      '3.66 V is above the model’s charge voltage of 3.65 V.',
    ],
    [
      'no way to storage',
      { kind: 'toStorage', current: { in: 'A', value: 0 } },
      'Expected a current above 0.',
    ],
    ['nothing to repeat', { kind: 'repeat', times: 2, steps: [] }, 'Expected steps to repeat.'],
    ['no times', { kind: 'repeat', times: 0, steps: [CHARGE] }, 'Expected 1 to 50 times; found 0.'],
    [
      'half a time',
      { kind: 'repeat', times: 1.5, steps: [CHARGE] },
      'Expected 1 to 50 times; found 1.5.',
    ],
    [
      'too many times',
      { kind: 'repeat', times: 51, steps: [CHARGE] },
      'Expected 1 to 50 times; found 51.',
    ],
  ])('%s', (_name, step, said) =>
    expect(problem([{ kind: 'rest', minutes: 1 }, step])).toEqual([said, 2]),
  );
  it('nothing at all, or more than 200 steps', () => {
    expect(problem([])).toEqual(['Expected at least one step.', 0]);
    const rest = { kind: 'rest', minutes: 1 } as const;
    const fifty = { kind: 'repeat', times: 50, steps: [rest, rest, rest, rest] } as const;
    const steps = { ...fifty, steps: [...fifty.steps] };
    expect(programOf([steps], CONDITIONS)).toHaveLength(200);
    expect(problem([steps, rest])[0]).toBe('Expected at most 200 steps, repeats counted out.');
  });
  it('the step of a repeat that is to blame is the repeat', () => {
    const steps: RecipeStep[] = [
      CHARGE,
      { kind: 'repeat', times: 2, steps: [CHARGE, { ...CHARGE, limitV: 4 }] },
    ];
    expect(problem(steps)[1]).toBe(2);
  });
  it('the ends of what is allowed are allowed', () => {
    for (const step of [
      { kind: 'rest', minutes: 0 },
      { kind: 'rest', minutes: 90 * 1440 },
      { ...CHARGE, current: { in: 'claimMaximum' }, limitV: 3.65 },
      { ...DISCHARGE, maxHours: 2000, cutoffV: 0.5 },
      { ...DISCHARGE, load: { by: 'current', current: { in: 'A', value: 208 } } },
    ] as const)
      expect(() => programOf([step], CONDITIONS)).not.toThrow();
    // Where nobody states a most, none is kept.
    expect(() =>
      programOf([{ ...CHARGE, current: { in: 'It', value: 9 } }], {
        ...CONDITIONS,
        maxChargeA: null,
      }),
    ).not.toThrow();
  });
  it('charges and discharges are told', () => {
    const kinds = (step: RecipeStep) => {
      const program = programOf([step], CONDITIONS);
      return [charges(program), discharges(program)];
    };
    expect(kinds(CHARGE)).toEqual([true, false]);
    expect(kinds(DISCHARGE)).toEqual([false, true]);
    expect(kinds(PULSE)).toEqual([false, true]);
    expect(kinds({ kind: 'toStorage', current: half })).toEqual([true, true]);
    expect(kinds({ kind: 'rest', minutes: 5 })).toEqual([false, false]);
  });
});
