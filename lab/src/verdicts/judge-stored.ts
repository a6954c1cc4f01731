import {
  assessCell,
  type AssessedItem,
  gradeCell,
  type GradeEvidence,
  healthEstimate,
  SHIPPED_SCHEME,
} from '@dusk-tally/core/verdicts';
import { type Estimate, scaledEstimate } from '@dusk-tally/core/units';
import type { CellArrivalRow, CellRow, StandingRow } from '@dusk-tally/store';
import { findingKind } from '@dusk-tally/core/arrivals';
import { wasDeep } from '../arrivals';
import { hashOf } from '../evidence';
import type { Lab } from '../shared';
import { assessmentRow } from './assessment-rows';
import type { PendingAtClaim } from './at-claim';
import { evidenceOf, type LotRules, newestOf, type StoredEvidence } from './cell-evidence';
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
  now: Date;
  /** Cells of which a result became held, or free: fits over repeats are to be made new. */
  heldAnew: number[][];
}

/** State of health where the capacity stands at the claim’s conditions and counts. */
function healthOf({ counting, rated }: { counting: CellResult | null; rated: number | null }) {
  return counting?.atClaim && rated ? healthEstimate(counting.atClaim, rated) : null;
}

/** AC resistance over the claimed one; undefined where one of them is missing. */
function acShareOf({ estimate, limits }: AssessedItem): Estimate | undefined {
  return estimate && limits?.high ? scaledEstimate(estimate, 1 / limits.high) : undefined;
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
  const scheme = SHIPPED_SCHEME;
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
  const marks = marksOf(stored.arrival);
  const grade = gradeCell(
    scheme,
    {
      stateOfHealth: soh ?? undefined,
      acResistanceShare: acShareOf(items.find(({ item }) => item === 'acResistance')!),
      selfDischarge: restVerdict(stored.rest),
      inspection: stored.arrival?.graded ?? undefined,
      marks,
    },
    guardFactor,
  );
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
      waitingFor: isHeld ? [lookWords(shown!.holds)] : grade.waitingFor,
      holds,
      scheme: scheme.name,
      schemeVersion: scheme.version,
    },
    inputHash: hashOf({
      // What it was carried by names the figure; its number is given when it is stored.
      items: withCapacityFigure(items, null),
      capacity: [shown?.stood.inputHash ?? null, shown?.raw.id ?? null],
      ocv: [ocv?.inputHash ?? null, ocv?.id ?? null],
      holds,
      guardFactor,
      soh,
      scheme: [scheme.name, scheme.version],
      inspection: stored.arrival?.graded ?? null,
      marks: marks ?? null,
      ...(stored.rest && { rest: stored.rest }),
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

/** A cell that waits for its second look has not passed, and not failed. */
const restVerdict = (outcome: StoredEvidence['rest']): GradeEvidence['selfDischarge'] =>
  !outcome || outcome === 'secondLook' ? undefined : outcome === 'keep' ? 'met' : 'notMet';

const lookWords = (held: CellResult['holds']): string =>
  held.every(({ rule }) => rule === 'channel') ? 'a look at its channel' : 'a look at what is held';

/** What an arrival leaves on a cell for good. */
function marksOf(arrival: CellArrivalRow | undefined): GradeEvidence['marks'] {
  if (!arrival) return undefined;
  const stop = (JSON.parse(arrival.findings) as string[])
    .map(findingKind)
    .find((kind) => kind.severity === 'stop');
  if (stop) return { dangerous: stop.words };
  if (arrival.triage === 'discard') return { dangerous: arrival.triageReason ?? 'to discard' };
  return wasDeep(arrival) ? { deepestV: arrival.lowestV! } : undefined;
}
