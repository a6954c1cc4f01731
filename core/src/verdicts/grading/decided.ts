import { type GradeResult, highestGrade, isBetter } from './grade';
import type { GradeEvidence } from './figures';
import type { GradeScheme } from './scheme';

/** A grade a person gave a cell, with what is said of it for good. */
export interface GradeDecision {
  grade: string;
  /** Who gave it. */
  who: string;
  /** `2026-11-28`, on the lab’s calendar. */
  day: string;
  reason: string;
}

const without = (text: string): string => text.replace(/\.+$/, '');

/**
 * The grade of a cell for which a person decided: theirs, with what the scheme says beside it; blocks
 * that no scheme lifts stay (handbook, chapter 5, "Grading a cell").
 */
export function decidedGrade(
  scheme: GradeScheme,
  byScheme: GradeResult,
  decision: GradeDecision,
  marks: GradeEvidence['marks'],
): GradeResult {
  const { grade, who, day, reason } = decision;
  const said = `${grade} by decision of ${who} on ${day}: ${without(reason)}.`;
  if (!scheme.grades.some(({ name }) => name === grade))
    return {
      ...byScheme,
      reasons: [
        ...byScheme.reasons,
        `A decision for ${grade} does not count: there is no such grade now.`,
      ],
    };
  if (isBetter(scheme, grade, highestGrade(scheme, marks)))
    return {
      ...byScheme,
      reasons: [
        ...byScheme.reasons,
        `A decision for ${grade} does not count: no person lifts this block.`,
      ],
    };
  const instead =
    byScheme.grade === null
      ? `By the scheme it waits for ${byScheme.waitingFor.join(', ') || 'its figures'}.`
      : byScheme.grade === grade
        ? 'The scheme says the same.'
        : `By the scheme it would be ${byScheme.grade}.`;
  return { grade, reasons: [said, instead], waitingFor: [] };
}
