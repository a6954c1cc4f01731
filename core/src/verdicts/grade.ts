import { type Estimate, isKnown, NO_UNCERTAINTY } from '../units';
import { judge, type Verdict } from './judge';

/** Figures a grade can depend on. Those not yet measured are absent. */
export interface GradeEvidence {
  /** Tested over rated minimum capacity, as a share (1 = 100 %). */
  stateOfHealth?: Estimate;
  /** AC resistance over the claimed one, as a share. */
  acResistanceShare?: Estimate;
  /** Charge kept at rest: judged elsewhere, `met` when the cell loses no charge. */
  selfDischarge?: Verdict;
  /** Worst inspection finding. */
  inspection?: 'none' | 'note' | 'serious' | 'stop';
  /** Marks no scheme can lift (handbook, chapter 5). */
  marks?: {
    /** It grew hot, leaked or swelled to a stop, in words. */
    dangerous?: string;
    /** Below this many volts once, below 1.0 V. */
    deepestV?: number;
  };
}

/** One condition of a grade (handbook, chapter 5). */
export type Condition =
  | { kind: 'stateOfHealth'; atLeast: number }
  | { kind: 'acResistanceShare'; atMost: number }
  | { kind: 'losesNoCharge' }
  | { kind: 'noFindingAboveNote' };

/** One grade of a scheme. */
export interface Grade {
  name: string;
  conditions: Condition[];
  /** Shown beside the grade's name. */
  note?: string;
}

/** An ordered list of grades, best first; the last one takes what no other does. */
export interface GradeScheme {
  name: string;
  version: number;
  grades: Grade[];
  /** Kinds of condition the lab does not yet apply, said on every report. */
  notApplied: Condition['kind'][];
  /** Best grade of a cell that was below 1.0 V once, and of one that is dangerous. */
  atBest: { belowOneVolt: string; dangerous: string };
}

/** The scheme that ships (handbook, chapter 5). */
export const SHIPPED_SCHEME: GradeScheme = {
  name: 'House grades',
  version: 1,
  notApplied: [],
  atBest: { belowOneVolt: 'Spares', dangerous: 'Recycle' },
  grades: [
    {
      name: 'First',
      conditions: [
        { kind: 'stateOfHealth', atLeast: 1 },
        { kind: 'acResistanceShare', atMost: 1.15 },
        { kind: 'losesNoCharge' },
        { kind: 'noFindingAboveNote' },
      ],
    },
    { name: 'Second', conditions: [{ kind: 'stateOfHealth', atLeast: 0.95 }] },
    { name: 'Utility', conditions: [{ kind: 'stateOfHealth', atLeast: 0.8 }] },
    {
      name: 'Spares',
      conditions: [{ kind: 'stateOfHealth', atLeast: 0.6 }],
      note: 'non-critical use only',
    },
    { name: 'Recycle', conditions: [] },
  ],
};

/** The grade a cell reaches, or what it waits for. */
export interface GradeResult {
  /** Name of the grade reached; null when the cell waits for its first figure. */
  grade: string | null;
  /** Why not the next better grade; empty for the best. */
  reasons: string[];
  /** Figures that are missing and could raise the grade. */
  waitingFor: string[];
}

type Outcome =
  { state: 'met' } | { state: 'failed'; reason: string } | { state: 'waiting'; for: string };

const percent = (share: number): string => `${(100 * share).toFixed(1)} %`;

function compare(
  figure: Estimate | undefined,
  limit: { value: number; direction: 'atLeast' | 'atMost' },
  words: { name: string; missing: string },
  guardFactor: number,
): Outcome {
  if (!figure) return { state: 'waiting', for: words.missing };
  if (!isKnown(figure))
    return { state: 'waiting', for: `the uncertainty of ${words.name} (${NO_UNCERTAINTY})` };
  const u = figure.standardUncertainty;
  const { verdict, margin } = judge(figure, limit, guardFactor);
  if (verdict === 'met') return { state: 'met' };
  const shown = `${words.name} ${figure.bound === 'atLeast' ? 'at least ' : ''}${(100 * figure.value).toFixed(1)} ± ${percent(2 * u)}`;
  const side = limit.direction === 'atLeast' ? 'below' : 'above';
  const reason =
    verdict === 'notMet'
      ? `${shown}: ${percent(-margin)} ${side} ${percent(limit.value)}`
      : `${shown}: too close to ${percent(limit.value)}`;
  return { state: 'failed', reason };
}

function outcomeOf(condition: Condition, evidence: GradeEvidence, guardFactor: number): Outcome {
  switch (condition.kind) {
    case 'stateOfHealth':
      return compare(
        evidence.stateOfHealth,
        { value: condition.atLeast, direction: 'atLeast' },
        { name: 'SoH', missing: 'a capacity test' },
        guardFactor,
      );
    case 'acResistanceShare':
      return compare(
        evidence.acResistanceShare,
        { value: condition.atMost, direction: 'atMost' },
        { name: 'AC resistance against claim', missing: 'an AC resistance reading' },
        guardFactor,
      );
    case 'losesNoCharge':
      if (evidence.selfDischarge === undefined)
        return { state: 'waiting', for: 'the self-discharge check' };
      return evidence.selfDischarge === 'met'
        ? { state: 'met' }
        : { state: 'failed', reason: 'it loses charge at rest' };
    case 'noFindingAboveNote':
      if (evidence.inspection === undefined) return { state: 'waiting', for: 'the inspection' };
      return evidence.inspection === 'none' || evidence.inspection === 'note'
        ? { state: 'met' }
        : { state: 'failed', reason: `inspection found something ${evidence.inspection}` };
  }
}

/**
 * First grade whose every condition is met wins; "too close" counts as not met for a better
 * grade; a missing figure is not a pass (handbook, chapter 5). A grade is only given when the
 * figures present support it; what could still raise it is named in `waitingFor`.
 */
export function gradeCell(
  scheme: GradeScheme,
  evidence: GradeEvidence,
  guardFactor: number,
): GradeResult {
  const { dangerous, deepestV } = evidence.marks ?? {};
  if (dangerous)
    return {
      grade: scheme.atBest.dangerous,
      reasons: [`${scheme.atBest.dangerous}, whatever it measures: ${dangerous}.`],
      waitingFor: [],
    };
  const result = gradeByConditions(scheme, evidence, guardFactor);
  const cap = scheme.grades.findIndex((grade) => grade.name === scheme.atBest.belowOneVolt);
  const reached = scheme.grades.findIndex((grade) => grade.name === result.grade);
  if (deepestV === undefined || reached < 0 || reached >= cap) return result;
  return {
    grade: scheme.atBest.belowOneVolt,
    reasons: [
      `${scheme.atBest.belowOneVolt} at best: it was at ${deepestV.toFixed(2)} V once, below 1.0 V.`,
    ],
    waitingFor: [],
  };
}

function gradeByConditions(
  scheme: GradeScheme,
  evidence: GradeEvidence,
  guardFactor: number,
): GradeResult {
  let reasons: string[] = [];
  const waitingFor = new Set<string>();
  for (const grade of scheme.grades) {
    const applied = grade.conditions.filter(
      (condition) => !scheme.notApplied.includes(condition.kind),
    );
    const outcomes = applied.map((condition) => outcomeOf(condition, evidence, guardFactor));
    const failed = outcomes.flatMap((outcome) =>
      outcome.state === 'failed' ? [outcome.reason] : [],
    );
    const waiting = outcomes.flatMap((outcome) =>
      outcome.state === 'waiting' ? [outcome.for] : [],
    );
    if (failed.length > 0) {
      reasons = failed.map((reason) => `Not ${grade.name}: ${reason}.`);
      continue;
    }
    if (waiting.length > 0) {
      for (const missing of waiting) waitingFor.add(missing);
      if (waiting.includes('a capacity test'))
        return { grade: null, reasons: [], waitingFor: [...waitingFor] };
      reasons = [`Not ${grade.name} yet: waiting for ${listWords(waiting)}.`];
      continue;
    }
    const missing = waitingFor.size > 0 && evidence.stateOfHealth ? [...waitingFor] : [];
    return { grade: grade.name, reasons, waitingFor: missing };
  }
  return { grade: null, reasons, waitingFor: [...waitingFor] };
}

/**
 * `a`, `a and b`, `a, b and c`.
 * @example listWords(['a', 'b', 'c']) // 'a, b and c'
 */
export function listWords(words: string[]): string {
  if (words.length < 2) return words.join('');
  return `${words.slice(0, -1).join(', ')} and ${words[words.length - 1]!}`;
}
