import {
  assessCell,
  type AssessedItem,
  besideLot,
  decidedGrade,
  gradeCell,
  healthEstimate,
} from '@dusk-tally/core/verdicts';
import type { CellRow, StandingRow } from '@dusk-tally/store';
import { hashOf } from '../evidence';
import type { Lab } from '../shared';
import { assessmentRow } from './assessment-rows';
import type { PendingAtClaim } from './at-claim';
import { evidenceOf, type LotRules, newestOf, type StoredEvidence } from './cell-evidence';
import { gradeEvidenceOf } from './grading/grade-evidence';
import type { SaidOfCells } from './grading/said-of-cells';
import type { CellResult } from './holds';
import type { JudgedCell } from './write-judged';

/** A judged cell, and the carried figure that is still to be stored for it. */
interface Stood extends JudgedCell {
  pending: PendingAtClaim | null;
  results: readonly CellResult[];
}

/** One pass over cells of a lot. */
export interface Pass {
  lab: Lab;
  lotId: number;
  rules: LotRules;
  said: SaidOfCells;
  now: Date;
  /** Cells of which a result became held, or free: fits over repeats are to be made new. */
  heldAnew: number[][];
}

/** State of health where the capacity stands at the claim’s conditions and counts. */
function healthOf({ counting, rated }: { counting: CellResult | null; rated: number | null }) {
  return counting?.atClaim && rated ? healthEstimate(counting.atClaim, rated) : null;
}

/** Figures of single items with the figures they are, as they are stored. */
function withCapacityFigure(
  items: readonly AssessedItem[],
  figureId: number | null,
): AssessedItem[] {
  return items.map((item) => (item.item === 'capacity' ? { ...item, figureId } : item));
}

export function judgeStored(cell: CellRow, stored: StoredEvidence, { rules, now }: Pass): Stood {
  const { claim, guardFactor } = rules;
  const { scheme, grounds } = rules;
  const evidence = evidenceOf(stored, rules);
  const results = evidence.capacities;
  const { counting, items } = assessCell(evidence, rules.items, guardFactor);
  const capacity = items.find(({ item }) => item === 'capacity')!;
  const isHeld = capacity.state === 'held';
  // Where everything is held the newest result is shown, and nothing is judged by it.
  const shown =
    counting ??
    results.reduce<CellResult | null>((a, b) => (a !== null && a.order > b.order ? a : b), null);
  const isCarried = (shown?.corrections.length ?? 0) > 0;
  const carried = isCarried
    ? stored.figures.find(
        (f) => f.quantity === 'capacityAtClaim' && f.inputHash === shown!.stood.inputHash,
      )
    : undefined;
  const ocv = newestOf(stored.figures, 'openCircuitVoltage');
  const soh = healthOf({ counting, rated: claim.capacityAh?.value ?? null });
  const kept = gradeEvidenceOf({ stored, evidence, counting, items, soh }, rules);
  const beside = besideLot(kept, grounds, String(cell.id));
  const byScheme = gradeCell(scheme, beside, guardFactor);
  const { decision } = stored;
  const grade = decision ? decidedGrade(scheme, byScheme, decision, kept.marks) : byScheme;
  const assessed = withCapacityFigure(items, carried?.id ?? shown?.raw.id ?? null);
  const holds = results.flatMap((result) => result.holds);
  const row: StandingRow = {
    cellId: cell.id,
    lotId: cell.lotId,
    capacityRawFigureId: shown?.raw.id ?? null,
    capacityRawAh: shown?.raw.value ?? null,
    ocvV: ocv?.value ?? null,
    stateOfHealth: soh?.value ?? null,
    grade: grade.grade,
    detail: {
      reasons: grade.reasons,
      waitingFor: isHeld && !decision ? [lookWords(shown!.holds)] : grade.waitingFor,
      holds,
    },
    evidence: kept,
    inputHash: hashOf({
      // What it was carried by names the figure; its number is given when it is stored.
      items: withCapacityFigure(items, null),
      capacity: [shown?.stood.inputHash ?? null, shown?.raw.id ?? null],
      ocv: [ocv?.inputHash ?? null, ocv?.id ?? null],
      holds,
      guardFactor,
      soh,
      grade,
      kept,
      ...(decision && { decision }),
    }),
    updatedAt: now,
  };
  const pending =
    isCarried && !carried && (shown!.run || shown!.hand)
      ? {
          raw: shown!.raw,
          run: shown!.run,
          hand: shown!.hand,
          inputHash: shown!.stood.inputHash,
        }
      : null;
  return { row, items: assessed.map(assessmentRow), pending, results };
}

const lookWords = (held: CellResult['holds']): string =>
  held.every(({ rule }) => rule === 'channel')
    ? 'a look at its channel'
    : held.every(({ rule }) => rule === 'byHand')
      ? 'another result: this one is set aside'
      : 'a look at what is held';
