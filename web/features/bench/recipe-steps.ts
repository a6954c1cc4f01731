import type { RecipeCurrent, RecipeStep } from '@dusk-tally/core/bench';
import { ASK_WORDS } from './words';

export const KINDS = [
  'charge',
  'rest',
  'discharge',
  'pulse',
  'measure',
  'toStorage',
  'repeat',
] as const;
export const KIND_WORDS: Record<RecipeStep['kind'], string> = {
  charge: 'Charge',
  rest: 'Rest',
  discharge: 'Discharge',
  pulse: 'Pulse',
  measure: 'Measure',
  toStorage: 'To storage',
  repeat: 'Repeat',
};

/** A step of a kind as it is first put in. */
export function newStep(kind: RecipeStep['kind']): RecipeStep {
  switch (kind) {
    case 'charge':
      return {
        kind,
        current: { in: 'It', value: 0.5 },
        limitV: null,
        taperIt: 0.05,
        maxHours: null,
        limitAh: null,
      };
    case 'rest':
      return { kind, minutes: 60 };
    case 'discharge':
      return {
        kind,
        load: { by: 'current', current: { in: 'claimRate' } },
        cutoffV: null,
        maxHours: null,
        limitAh: null,
      };
    case 'pulse':
      return {
        kind,
        first: { in: 'It', value: 0.2 },
        firstS: 10,
        second: { in: 'It', value: 1 },
        secondS: 1,
      };
    case 'measure':
      return { kind, what: 'acResistance' };
    case 'toStorage':
      return { kind, current: { in: 'It', value: 0.5 } };
    case 'repeat':
      return { kind, times: 3, steps: [newStep('charge') as never, newStep('discharge') as never] };
  }
}

export function currentWords(current: RecipeCurrent): string {
  if (current.in === 'claimRate') return 'the claim’s rate';
  if (current.in === 'claimMaximum') return 'the claim’s maximum';
  return `${current.value} ${current.in}`;
}

/** A step in words. */
export function stepWords(step: RecipeStep): string {
  const limits = (maxHours: number | null, limitAh: number | null) =>
    `${maxHours === null ? '' : `, at most ${maxHours < 1 ? `${Math.round(maxHours * 60)} min` : `${maxHours} h`}`}${limitAh === null ? '' : `, at most ${limitAh} Ah`}`;
  switch (step.kind) {
    case 'charge':
      return `Charge at ${currentWords(step.current)} to ${step.limitV === null ? 'the model’s limit' : `${step.limitV} V`}, until ${step.taperIt} It${limits(step.maxHours, step.limitAh)}`;
    case 'rest':
      return `Rest ${step.minutes >= 1440 ? `${(step.minutes / 1440).toFixed(0)} days` : `${step.minutes} min`}`;
    case 'discharge':
      return `Discharge ${step.load.by === 'current' ? `at ${currentWords(step.load.current)}` : step.load.by === 'power' ? `at ${step.load.watts} W` : `into ${step.load.ohm} Ω`} to ${step.cutoffV === null ? 'the claim’s cut-off' : `${step.cutoffV} V`}${limits(step.maxHours, step.limitAh)}`;
    case 'pulse':
      return `Pulse ${currentWords(step.first)} for ${step.firstS} s, then ${currentWords(step.second)} for ${step.secondS} s`;
    case 'measure':
      return `Measure ${ASK_WORDS[step.what]?.[0] ?? step.what}`;
    case 'toStorage':
      return `To storage voltage at ${currentWords(step.current)}`;
    case 'repeat':
      return `${step.times} times: ${step.steps.map(stepWords).join('; ')}`;
  }
}
