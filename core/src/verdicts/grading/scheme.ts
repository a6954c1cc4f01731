import { type GradeFigureName, gradeFigure, FINDING_LEVELS, type FindingLevel } from './figures';

/** One condition of a grade (handbook, chapter 5): a figure with its limit, or a plain yes. */
export type Condition =
  | { kind: GradeFigureName; limit: number }
  | { kind: 'losesNoCharge' }
  | { kind: 'staysCool' }
  /** The worst finding of its inspection may be so bad. */
  | { kind: 'worstFinding'; limit: Exclude<FindingLevel, 'stop'> };

/** What conditions can be on. */
export type ConditionKind = Condition['kind'];

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
  /** Best grade of a cell that was below 1.0 V once, and of one that is dangerous. */
  atBest: { belowOneVolt: string; dangerous: string };
  /** Whether “too close to call” is enough for a grade; the buyer then carries the lab’s doubt. */
  tooCloseIsEnough: boolean;
}

/** The scheme that ships (handbook, chapter 5). */
export const SHIPPED_SCHEME: GradeScheme = {
  name: 'House grades',
  version: 1,
  atBest: { belowOneVolt: 'Spares', dangerous: 'Recycle' },
  tooCloseIsEnough: false,
  grades: [
    {
      name: 'First',
      conditions: [
        { kind: 'stateOfHealth', limit: 1 },
        { kind: 'acResistanceShare', limit: 1.15 },
        { kind: 'losesNoCharge' },
        { kind: 'worstFinding', limit: 'note' },
      ],
    },
    { name: 'Second', conditions: [{ kind: 'stateOfHealth', limit: 0.95 }] },
    { name: 'Utility', conditions: [{ kind: 'stateOfHealth', limit: 0.8 }] },
    {
      name: 'Spares',
      conditions: [{ kind: 'stateOfHealth', limit: 0.6 }],
      note: 'non-critical use only',
    },
    { name: 'Recycle', conditions: [] },
  ],
};

/** Whether a cell that meets `a` meets `b` as well, both on the same thing. */
function implies(a: Condition, b: Condition): boolean {
  if (a.kind === 'losesNoCharge' || a.kind === 'staysCool') return a.kind === b.kind;
  if (a.kind === 'worstFinding')
    return b.kind === a.kind && FINDING_LEVELS.indexOf(a.limit) <= FINDING_LEVELS.indexOf(b.limit);
  if (b.kind !== a.kind || typeof b.limit !== 'number') return false;
  return gradeFigure(a.kind).good === 'atLeast' ? a.limit >= b.limit : a.limit <= b.limit;
}

/** A grade no cell can reach, and the better one that takes all of its cells before it. */
export interface Unreachable {
  grade: string;
  takenBy: string;
}

/**
 * Grades no cell reaches: whoever meets all of their conditions meets those of a better one.
 * @example unreachableGrades([{ name: 'A', conditions: [{ kind: 'stateOfHealth', limit: 0.9 }] }, { name: 'B', conditions: [{ kind: 'stateOfHealth', limit: 0.95 }] }]) // [{ grade: 'B', takenBy: 'A' }]
 */
export function unreachableGrades(grades: readonly Grade[]): Unreachable[] {
  return grades.flatMap(({ name, conditions }, at): Unreachable[] => {
    const better = grades
      .slice(0, at)
      .find((other) =>
        other.conditions.every((one) => conditions.some((own) => implies(own, one))),
      );
    return better ? [{ grade: name, takenBy: better.name }] : [];
  });
}

/** Whether any condition of a scheme needs the other cells of a lot. */
export const needsLot = ({ grades }: Pick<GradeScheme, 'grades'>): boolean =>
  grades.some(({ conditions }) =>
    conditions.some(
      ({ kind }) =>
        kind !== 'losesNoCharge' &&
        kind !== 'staysCool' &&
        kind !== 'worstFinding' &&
        gradeFigure(kind).ofLot === true,
    ),
  );
