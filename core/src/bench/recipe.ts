import type { Clamping } from '../chemistry';

/** A current as a recipe writes it: in A, as a multiple of It, or the rate or limit the claim states. */
export type RecipeCurrent =
  | { in: 'A'; value: number }
  | { in: 'It'; value: number }
  | { in: 'claimRate' }
  | { in: 'claimMaximum' };

/** What a discharge is loaded with. */
export type RecipeLoad =
  | { by: 'current'; current: RecipeCurrent }
  | { by: 'power'; watts: number }
  | { by: 'resistor'; ohm: number };

/** What a person or a meter is asked for in a measuring step. */
export const MEASURED = [
  'acResistance',
  'openCircuitVoltage',
  'mass',
  'temperature',
  'torque',
] as const;
/** What a measuring step asks a person to read. */
export type Measured = (typeof MEASURED)[number];

/**
 * A step of a recipe (handbook, chapter 2, "Recipes"). A voltage left null is the model’s or the
 * claim’s. A step ends at the first of its ends; `maxHours` and `limitAh` are always ends, too.
 */
export type RecipeStep =
  | {
      kind: 'charge';
      current: RecipeCurrent;
      limitV: number | null;
      taperIt: number;
      maxHours: number | null;
      limitAh: number | null;
    }
  | { kind: 'rest'; minutes: number }
  | {
      kind: 'discharge';
      load: RecipeLoad;
      cutoffV: number | null;
      maxHours: number | null;
      limitAh: number | null;
    }
  | { kind: 'pulse'; first: RecipeCurrent; firstS: number; second: RecipeCurrent; secondS: number }
  | { kind: 'measure'; what: Measured }
  | { kind: 'toStorage'; current: RecipeCurrent }
  | { kind: 'repeat'; times: number; steps: RecipeStep[] };

/** Why a recipe is run; decides how its results are taken. */
export const RECIPE_PURPOSES = [
  'claimCheck',
  'rateSet',
  'quickScreen',
  'slowCharge',
  'conditioning',
  'reclaimed',
  'string',
  'retention',
  'own',
] as const;
/** What a recipe is for. */
export type RecipePurpose = (typeof RECIPE_PURPOSES)[number];

/** The steps of a run as a lab writes them, before a cell's own limits are known (handbook, chapter 3). */
export interface Recipe {
  name: string;
  purpose: RecipePurpose;
  steps: RecipeStep[];
  /** Runs in attended hours from start to finish (handbook, chapter 2, "Planning the bench"). */
  attendedOnly: boolean;
  /** Rest protocol its cell is laid on the shelf by when a run of it is done; null for none. */
  thenRest?: string | null;
  /** How its cells are held; null for clamped where the data sheet states a force, else free. */
  clamping?: Clamping | null;
}

/** What a recipe’s words stand for with one cell. */
export interface RecipeConditions {
  /** Rated capacity, Ah. */
  ratedAh: number;
  /** Rate of the claim, It. */
  claimRateIt: number;
  /** Cut-off of the claim, V. */
  claimCutoffV: number;
  chargeV: number;
  /** Middle of the storage voltage of its chemistry, V. */
  storageV: number;
  /** Largest currents the claim or the model allows, A; null where none is stated. */
  maxChargeA: number | null;
  maxDischargeA: number | null;
}

/** A step with every number settled, as an agent runs it. */
export type ProgramStep =
  | {
      kind: 'charge';
      amps: number;
      limitV: number;
      taperA: number;
      maxS: number;
      /** Time is an end the recipe wants, not only patience at its end. */
      endsByTime: boolean;
      limitAh: number | null;
    }
  | { kind: 'rest'; seconds: number }
  | {
      kind: 'discharge';
      mode: 'current' | 'power' | 'resistor';
      /** A, W or Ω. */
      set: number;
      cutoffV: number;
      maxS: number;
      /** Time is an end the recipe wants, not only patience at its end. */
      endsByTime: boolean;
      limitAh: number | null;
    }
  | { kind: 'pulse'; firstA: number; firstS: number; secondA: number; secondS: number }
  | { kind: 'measure'; what: Measured }
  | { kind: 'toStorage'; amps: number; targetV: number; maxS: number };

/** Steps of a recipe, most; repeats counted out. */
export const MOST_STEPS = 200;
/** A charge or discharge without a limit of its own ends after this many times its expected time. */
const PATIENCE = 1.6;
/** A day is the least patience with any step that moves charge, s. */
const LEAST_PATIENCE_S = 3 * 3600;

/** A recipe that cannot be run, with the step that is to blame, from 1; 0 for the whole. */
export class RecipeProblem extends Error {
  override readonly name = 'RecipeProblem';
  constructor(
    message: string,
    readonly step: number,
  ) {
    super(message);
  }
}

/** A current of a recipe for one cell, A. */
export function ampsOf(current: RecipeCurrent, conditions: RecipeConditions): number {
  if (current.in === 'A') return current.value;
  if (current.in === 'It') return current.value * conditions.ratedAh;
  if (current.in === 'claimRate') return conditions.claimRateIt * conditions.ratedAh;
  return conditions.maxChargeA ?? 0.5 * conditions.ratedAh;
}

/** Longest a step that moves charge is waited for, s. */
const patience = (maxHours: number | null, ah: number, amps: number): number =>
  maxHours !== null ? maxHours * 3600 : Math.max(LEAST_PATIENCE_S, (PATIENCE * ah * 3600) / amps);

function settle(step: Exclude<RecipeStep, { kind: 'repeat' }>, c: RecipeConditions): ProgramStep {
  switch (step.kind) {
    case 'charge': {
      const amps = ampsOf(step.current, c);
      return {
        kind: 'charge',
        amps,
        limitV: step.limitV ?? c.chargeV,
        taperA: step.taperIt * c.ratedAh,
        maxS: patience(step.maxHours, c.ratedAh, amps) + (step.maxHours === null ? 7200 : 0),
        endsByTime: step.maxHours !== null,
        limitAh: step.limitAh,
      };
    }
    case 'rest':
      return { kind: 'rest', seconds: step.minutes * 60 };
    case 'discharge': {
      const nominalV = (c.chargeV + c.claimCutoffV) / 2;
      const { load } = step;
      const [set, amps] =
        load.by === 'current'
          ? [ampsOf(load.current, c), ampsOf(load.current, c)]
          : load.by === 'power'
            ? [load.watts, load.watts / nominalV]
            : [load.ohm, nominalV / load.ohm];
      return {
        kind: 'discharge',
        mode: load.by,
        set,
        cutoffV: step.cutoffV ?? c.claimCutoffV,
        maxS: patience(step.maxHours, c.ratedAh, amps),
        endsByTime: step.maxHours !== null,
        limitAh: step.limitAh,
      };
    }
    case 'pulse':
      return {
        kind: 'pulse',
        firstA: ampsOf(step.first, c),
        firstS: step.firstS,
        secondA: ampsOf(step.second, c),
        secondS: step.secondS,
      };
    case 'measure':
      return step;
    case 'toStorage': {
      const amps = ampsOf(step.current, c);
      return {
        kind: 'toStorage',
        amps,
        targetV: c.storageV,
        maxS: patience(null, c.ratedAh, amps),
      };
    }
  }
}

/**
 * The steps of a recipe for one cell, repeats counted out.
 * @throws RecipeProblem for no steps, more than `MOST_STEPS`, or a step without sense.
 */
export function programOf(
  steps: readonly RecipeStep[],
  conditions: RecipeConditions,
): ProgramStep[] {
  const program: ProgramStep[] = [];
  const add = (list: readonly RecipeStep[], place: number | null) => {
    list.forEach((step, i) => {
      const at = place ?? i + 1;
      if (step.kind === 'repeat') {
        if (!(Number.isInteger(step.times) && step.times >= 1 && step.times <= 50))
          throw new RecipeProblem(`Expected 1 to 50 times; found ${step.times}.`, at);
        if (step.steps.length === 0) throw new RecipeProblem('Expected steps to repeat.', at);
        for (let n = 0; n < step.times; n++) add(step.steps, at);
        return;
      }
      const settled = settle(step, conditions);
      const problem = problemOf(settled, conditions);
      if (problem) throw new RecipeProblem(problem, at);
      program.push(settled);
      if (program.length > MOST_STEPS)
        throw new RecipeProblem(`Expected at most ${MOST_STEPS} steps, repeats counted out.`, at);
    });
  };
  add(steps, null);
  if (program.length === 0) throw new RecipeProblem('Expected at least one step.', 0);
  return program;
}

const positive = (value: number) => Number.isFinite(value) && value > 0;
/** No step takes longer: what a typed time can be at most (handbook, chapter 1), s. */
const LONGEST_STEP_S = 2000 * 3600;
const isTime = (seconds: number) => positive(seconds) && seconds <= LONGEST_STEP_S;
const TIMES = `Expected times above 0 and of at most ${LONGEST_STEP_S / 3600} h.`;

/** What is wrong with a settled step for this cell, or null. */
function problemOf(step: ProgramStep, c: RecipeConditions): string | null {
  if (step.kind === 'rest')
    return step.seconds >= 0 && step.seconds <= 90 * 86400
      ? null
      : `Expected a rest of 0 minutes to 90 days; found ${step.seconds / 60} min.`;
  if (step.kind === 'measure') return null;
  if (step.kind === 'pulse')
    return positive(step.firstA) &&
      positive(step.secondA) &&
      isTime(step.firstS) &&
      isTime(step.secondS)
      ? tooMuch(Math.max(step.firstA, step.secondA), c.maxDischargeA, 'discharge')
      : `Expected currents above 0. ${TIMES}`;
  if (step.kind === 'discharge') {
    if (!positive(step.set)) return 'Expected a load above 0.';
    if (!isTime(step.maxS)) return TIMES;
    if (step.limitAh !== null && !positive(step.limitAh))
      return 'Expected a limit of charge above 0.';
    if (!(step.cutoffV >= 0.5 && step.cutoffV < c.chargeV))
      return `Expected a cut-off from 0.5 V to below the charge voltage of ${c.chargeV} V; found ${step.cutoffV} V.`;
    return step.mode === 'current' ? tooMuch(step.set, c.maxDischargeA, 'discharge') : null;
  }
  if (!positive(step.amps)) return 'Expected a current above 0.';
  if (step.kind === 'toStorage') return null;
  if (!positive(step.taperA) || step.taperA >= step.amps)
    return `Expected the charge to end at a current below the ${step.amps.toFixed(2)} A it begins with; found ${step.taperA.toFixed(2)} A.`;
  if (!isTime(step.maxS)) return TIMES;
  if (step.limitAh !== null && !positive(step.limitAh))
    return 'Expected a limit of charge above 0.';
  if (step.limitV > c.chargeV + 1e-9)
    return `${step.limitV} V is above the model’s charge voltage of ${c.chargeV} V.`;
  return tooMuch(step.amps, c.maxChargeA, 'charge');
}

const tooMuch = (amps: number, most: number | null, way: string): string | null =>
  most !== null && amps > most * 1.0001
    ? `${amps.toFixed(2)} A is above the most the claim or the model allows for ${way}, ${most.toFixed(2)} A.`
    : null;

/** Whether a recipe charges. */
export const charges = (program: readonly ProgramStep[]): boolean =>
  program.some((step) => step.kind === 'charge' || step.kind === 'toStorage');

/** Whether a recipe discharges. */
export const discharges = (program: readonly ProgramStep[]): boolean =>
  program.some(
    (step) => step.kind === 'discharge' || step.kind === 'pulse' || step.kind === 'toStorage',
  );
