import { claimsNew, type ClaimKind, monthsBetween } from '../arrivals';
import type { AssessedItem, CellEvidence, ClaimedItem, ItemState } from './assessed-item';

/** A cell sold as new is not older than this on arrival, months (house default). */
export const NEW_AT_MOST_MONTHS = 12;

/** Findings that speak against a grade or “new”: they were used, or worked on. */
const USED: Readonly<Record<string, string>> = {
  thread: 're-worked terminals',
  weld: 'weld remains',
  ownersMarks: 'marks of a previous owner',
};
const COPIED = { code: 'copiedCode', words: 'a code that stands on another cell, too' };

/** What speaks against a cell being of its grade, or new. */
function speaksAgainst(
  { findings, produced, arrivedOn }: Pick<CellEvidence, 'findings' | 'produced' | 'arrivedOn'>,
  asNew: boolean,
  worked: boolean,
): string[] {
  const against = worked
    ? Object.entries(USED).flatMap(([code, words]) => (findings.includes(code) ? [words] : []))
    : [];
  if (findings.includes(COPIED.code)) against.push(COPIED.words);
  if (asNew && produced && arrivedOn) {
    // The latest day its code can mean: what speaks against it must do so on that day, too.
    const months = monthsBetween(produced.until, arrivedOn);
    if (months > NEW_AT_MOST_MONTHS)
      against.push(`its age: ${months} months on arrival, at most ${NEW_AT_MOST_MONTHS} for new`);
  }
  return against;
}

type Assessed = Partial<Pick<AssessedItem, 'estimate' | 'differences'>> & ItemState;

/** Items in words and the production date: contradicted, or nothing speaks against them; never met. */
export function assessWords(
  kind: ClaimKind,
  evidence: Pick<CellEvidence, 'findings' | 'produced' | 'arrivedOn' | 'isInspected'>,
  claimed: ClaimedItem,
): Assessed {
  if (kind === 'producedAfter') return producedAfter(evidence.produced, claimed.text!);
  const asNew = claimsNew([claimed.text]);
  const by = speaksAgainst(evidence, asNew, kind === 'grade' || asNew);
  if (by.length > 0) return { state: 'contradicted', by };
  if (!evidence.isInspected) return { state: 'waitingFor', what: ['the inspection'] };
  return { state: 'nothingAgainst' };
}

function producedAfter(produced: CellEvidence['produced'], claimed: string): Assessed {
  if (!produced) return { state: 'waitingFor', what: ['a code that tells its production day'] };
  const said =
    produced.from === produced.until
      ? `Its code says ${produced.from}.`
      : `Its code says ${produced.from} to ${produced.until}.`;
  if (produced.from >= claimed) return { state: 'met', probability: 1, differences: [said] };
  if (produced.until < claimed) return { state: 'notMet', probability: 0, differences: [said] };
  return { state: 'tooClose', probability: 0.5, differences: [said] };
}
