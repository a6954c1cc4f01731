import { type Estimate, isKnown, NO_UNCERTAINTY } from '../../units';
import { judge } from '../judge';
import {
  FINDING_LEVELS,
  type FindingLevel,
  type GradeEvidence,
  gradeFigure,
  type GradeFigure,
} from './figures';
import type { Condition, GradeScheme } from './scheme';

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
  | { state: 'met' }
  /** Open: of a bound that leaves it undecided; nothing speaks against the cell. */
  | { state: 'failed'; reason: string; isOpen?: boolean }
  | { state: 'waiting'; for: string; isCapacity: boolean };

const UNITS: Record<GradeFigure['unit'], { scale: number; digits: number; after: string }> = {
  share: { scale: 100, digits: 1, after: ' %' },
  months: { scale: 1, digits: 1, after: ' months' },
  V: { scale: 1, digits: 2, after: ' V' },
  z: { scale: 1, digits: 1, after: '' },
  times: { scale: 1, digits: 0, after: '' },
};

function compare(
  figure: Estimate | undefined,
  kind: GradeFigure,
  limit: number,
  { tooCloseIsEnough, guardFactor }: { tooCloseIsEnough: boolean; guardFactor: number },
): Outcome {
  const { words, missing, good, unit, isCapacity = false } = kind;
  if (!figure) return { state: 'waiting', for: missing, isCapacity };
  if (!isKnown(figure))
    return {
      state: 'waiting',
      for: `the uncertainty of ${words} (${NO_UNCERTAINTY})`,
      isCapacity: false,
    };
  const { verdict, margin } = judge(figure, { value: limit, direction: good }, guardFactor);
  if (verdict === 'met' || (verdict === 'tooClose' && tooCloseIsEnough)) return { state: 'met' };
  const { scale, digits, after } = UNITS[unit];
  const said = (value: number) => (scale * value).toFixed(digits);
  const U = unit === 'times' ? '' : ` ± ${said(2 * figure.standardUncertainty)}`;
  const bound =
    figure.bound === 'atLeast' ? ' at least' : figure.bound === 'atMost' ? ' at most' : '';
  const shown = `${words}${bound} ${said(figure.value)}${U}${after}`;
  const side = good === 'atLeast' ? 'below' : 'above';
  const reason =
    verdict === 'notMet'
      ? `${shown}: ${said(-margin)}${after} ${side} ${said(limit)}${after}`
      : `${shown}: too close to ${said(limit)}${after}`;
  return { state: 'failed', reason, isOpen: verdict === 'tooClose' && figure.bound !== 'exact' };
}

function findingOutcome(found: FindingLevel | undefined, limit: FindingLevel): Outcome {
  if (found === undefined) return { state: 'waiting', for: 'the inspection', isCapacity: false };
  return FINDING_LEVELS.indexOf(found) <= FINDING_LEVELS.indexOf(limit)
    ? { state: 'met' }
    : {
        state: 'failed',
        reason:
          found === 'note'
            ? 'inspection found something to note'
            : `inspection found something ${found}`,
      };
}

function outcomeOf(
  condition: Condition,
  evidence: GradeEvidence,
  rule: { tooCloseIsEnough: boolean; guardFactor: number },
): Outcome {
  switch (condition.kind) {
    case 'losesNoCharge':
      if (evidence.selfDischarge === undefined)
        return { state: 'waiting', for: 'the self-discharge check', isCapacity: false };
      return evidence.selfDischarge === 'met'
        ? { state: 'met' }
        : { state: 'failed', reason: 'it loses charge at rest' };
    case 'staysCool':
      if (evidence.heat === undefined)
        return {
          state: 'waiting',
          for: 'a charge with its temperature watched',
          isCapacity: false,
        };
      return evidence.heat === 'met'
        ? { state: 'met' }
        : { state: 'failed', reason: 'it heated on charge' };
    case 'worstFinding':
      return findingOutcome(evidence.inspection, condition.limit);
    default:
      return compare(evidence[condition.kind], gradeFigure(condition.kind), condition.limit, rule);
  }
}

/**
 * First grade whose every condition is met wins; "too close" counts as not met for a better
 * grade unless the scheme says otherwise; a missing figure is not a pass (handbook, chapter 5). A
 * grade is only given when the figures present support it; what could still raise it is named in
 * `waitingFor`.
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
  if (deepestV === undefined || !isBetter(scheme, result.grade, scheme.atBest.belowOneVolt))
    return result;
  return {
    grade: scheme.atBest.belowOneVolt,
    reasons: [
      `${scheme.atBest.belowOneVolt} at best: it was at ${deepestV.toFixed(2)} V once, below 1.0 V.`,
    ],
    waitingFor: [],
  };
}

/** Whether a grade stands above another in a scheme; no grade stands above none. */
export function isBetter({ grades }: GradeScheme, grade: string | null, than: string): boolean {
  const at = grades.findIndex(({ name }) => name === grade);
  return at >= 0 && at < grades.findIndex(({ name }) => name === than);
}

/**
 * The best grade a person may give a cell: blocks that no scheme lifts, no person lifts either.
 * @example highestGrade(SHIPPED_SCHEME, { dangerous: 'leaking or wet' }) // 'Recycle'
 */
export function highestGrade(scheme: GradeScheme, marks: GradeEvidence['marks']): string {
  if (marks?.dangerous) return scheme.atBest.dangerous;
  if (marks?.deepestV !== undefined) return scheme.atBest.belowOneVolt;
  return scheme.grades[0]!.name;
}

/** What settles a bound. */
const WHOLE_DISCHARGE = 'a discharge down to the cut-off without a gap';

function gradeByConditions(
  scheme: GradeScheme,
  evidence: GradeEvidence,
  guardFactor: number,
): GradeResult {
  const rule = { tooCloseIsEnough: scheme.tooCloseIsEnough, guardFactor };
  let reasons: string[] = [];
  const waitingFor = new Set<string>();
  let isBounded = false;
  for (const grade of scheme.grades) {
    const outcomes = grade.conditions.map((condition) => outcomeOf(condition, evidence, rule));
    const failures = outcomes.flatMap((one) => (one.state === 'failed' ? [one] : []));
    const failed = failures.map(({ reason }) => reason);
    if (failures.length > 0 && failures.every(({ isOpen }) => isOpen)) isBounded = true;
    const waiting = outcomes.flatMap((one) => (one.state === 'waiting' ? [one] : []));
    if (failed.length > 0) {
      reasons = failed.map((reason) => `Not ${grade.name}: ${reason}.`);
      continue;
    }
    if (waiting.length > 0) {
      const missing = waiting.map((one) => one.for);
      for (const one of missing) waitingFor.add(one);
      if (waiting.some(({ isCapacity }) => isCapacity))
        return { grade: null, reasons: [], waitingFor: [...waitingFor] };
      reasons = [`Not ${grade.name} yet: waiting for ${listWords(missing)}.`];
      continue;
    }
    // What is left over is no grade as long as a better one is open, or only a bound keeps it away.
    if (grade.conditions.length === 0 && isBounded) waitingFor.add(WHOLE_DISCHARGE);
    if (grade.conditions.length === 0 && waitingFor.size > 0)
      return { grade: null, reasons: [], waitingFor: [...waitingFor] };
    // The best grade is not reached in silence by a cell nobody looked at.
    const isUnseen = grade === scheme.grades[0] && evidence.inspection === undefined;
    return {
      grade: grade.name,
      reasons: isUnseen
        ? [`${grade.name} without an inspection: the grades do not ask for one.`]
        : reasons,
      waitingFor: [...waitingFor],
    };
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
