import { typedNumber } from '@/kit/typed-number';
import type { StringTestView } from '@dusk-tally/lab/bench';
import { loadTestStep, type LoadTestStep } from '@dusk-tally/core/bench';

/** Readings of a string at one state of charge, as typed. */
export interface StepDraft {
  pct: string;
  lowA: string;
  highA: string;
  lowV: string;
  highV: string;
  jointC: string;
}

/** A load test as typed. */
export interface StringDraft {
  title: string;
  cells: string;
  torqueNm: string;
  cableMm2: string;
  cableM: string;
  packAh: string;
  packAhU: string;
  balancedAh: string;
  steps: StepDraft[];
}

export const FRESH_STEP: StepDraft = {
  pct: '70',
  lowA: '30',
  highA: '60',
  lowV: '',
  highV: '',
  jointC: '',
};

export const FRESH_TEST: StringDraft = {
  title: '',
  cells: '',
  torqueNm: '',
  cableMm2: '16',
  cableM: '1.5',
  packAh: '',
  packAhU: '',
  balancedAh: '',
  steps: [FRESH_STEP],
};

/** One number with a decimal point or comma; NaN for nothing or for what is none. */
export const numberOf = (text: string): number => typedNumber(text) ?? NaN;

/** `3.281 3.279` or one a line; a comma is a decimal one; `-` stands for not read. */
export const numbersOf = (text: string): number[] =>
  text
    .trim()
    .split(/[\s;]+/)
    .filter(Boolean)
    .map((part) => (part === '-' ? NaN : numberOf(part)));

/** Numbers of cells, parted by blanks, commas or lines. */
export const cellNumbersOf = (text: string): string[] => text.split(/[\s,;]+/).filter(Boolean);

const isEmpty = (draft: StepDraft) => draft.lowV.trim() === '' && draft.highV.trim() === '';

/** A number that may be left out. @throws where something stands that is none. */
function maybe(text: string, name: string): number | null {
  if (text.trim() === '') return null;
  const value = numberOf(text);
  if (!Number.isFinite(value)) throw new RangeError(`${name}: expected a number; found “${text}”.`);
  return value;
}

/** What one state of charge says, or why it says nothing yet. */
export function judgeStep(draft: StepDraft): {
  step: LoadTestStep | null;
  problem: string | null;
} {
  if (isEmpty(draft)) return { step: null, problem: null };
  try {
    return { step: loadTestStep(stepOf(draft)), problem: null };
  } catch (error) {
    return { step: null, problem: (error as Error).message };
  }
}

const stepOf = (draft: StepDraft) => ({
  stateOfChargePct: numberOf(draft.pct),
  lowA: numberOf(draft.lowA),
  highA: numberOf(draft.highA),
  lowV: numbersOf(draft.lowV),
  highV: numbersOf(draft.highV),
  jointC: numbersOf(draft.jointC),
});

/** A draft as it is stored. @throws RangeError that says which field is no number. */
export function storedOf(draft: StringDraft) {
  return {
    title: draft.title,
    cells: cellNumbersOf(draft.cells),
    torqueNm: maybe(draft.torqueNm, 'Torque'),
    cableMm2: maybe(draft.cableMm2, 'Cross-section'),
    cableM: maybe(draft.cableM, 'Length'),
    packAh: maybe(draft.packAh, 'Pack capacity'),
    packAhU: maybe(draft.packAhU, 'Its standard uncertainty'),
    balancedAh: maybe(draft.balancedAh, 'Moved by balancing'),
    steps: draft.steps
      .filter((step) => !isEmpty(step))
      .map((step) => {
        const read = stepOf(step);
        return {
          ...read,
          jointC: read.jointC.map((celsius) => (Number.isNaN(celsius) ? null : celsius)),
        };
      }),
  };
}

/** Readings with as many digits after the point as the finest of them. */
function readings(values: readonly (number | null)[]): string {
  const digits = Math.max(
    0,
    ...values.map((value) => (value === null ? 0 : (String(value).split('.')[1] ?? '').length)),
  );
  return values.map((value) => value?.toFixed(digits) ?? '-').join(' ');
}

const text = (value: number | null) => (value === null ? '' : String(value));

/** A stored test as it is typed. */
export function draftOf({ row, cells }: StringTestView): StringDraft {
  return {
    title: row.title,
    cells: cells.map(({ number }) => number).join(' '),
    torqueNm: text(row.torqueNm),
    cableMm2: text(row.cableMm2),
    cableM: text(row.cableM),
    packAh: text(row.packAh),
    packAhU: text(row.packAhU),
    balancedAh: text(row.balancedAh),
    steps:
      row.steps.length === 0
        ? [FRESH_STEP]
        : row.steps.map((step) => ({
            pct: text(step.stateOfChargePct),
            lowA: text(step.lowA),
            highA: text(step.highA),
            lowV: readings(step.lowV),
            highV: readings(step.highV),
            jointC: readings(step.jointC),
          })),
  };
}
