import { monthsBetween } from '@dusk-tally/core/arrivals';
import { type Estimate, scaledEstimate } from '@dusk-tally/core/units';
import type {
  AssessedItem,
  CellEvidence,
  GradeEvidence,
  KeptEvidence,
} from '@dusk-tally/core/verdicts';
import { findingKind } from '@dusk-tally/core/arrivals';
import type { CellArrivalRow } from '@dusk-tally/store';
import { wasDeep } from '../../arrivals';
import { heldRunsOf, type LotRules, newestOf, type StoredEvidence } from '../cell-evidence';
import type { CellResult } from '../holds';

/** A cell that was judged, as its grade goes by it. */
export interface JudgedFor {
  stored: StoredEvidence;
  evidence: CellEvidence<CellResult>;
  counting: CellResult | null;
  items: readonly AssessedItem[];
  /** Its state of health; null where it has none. */
  soh: Estimate | null;
}

const isNumber = (value: number | null | undefined): value is number => typeof value === 'number';

const counted = (value: number): Estimate => ({ value, standardUncertainty: 0, bound: 'exact' });

/** Five digits and a bit: what is kept, and tried other schemes on, is what it was graded by. */
const kept = ({ value, standardUncertainty, bound }: Estimate): Estimate => ({
  value: Number(value.toPrecision(9)),
  standardUncertainty:
    standardUncertainty === null ? null : Number(standardUncertainty.toPrecision(6)),
  bound,
});

/** A figure over a number; nothing where one of them is missing. */
const over = (figure: Estimate | null | undefined, by: number | null | undefined) =>
  figure && by ? scaledEstimate(figure, 1 / by) : undefined;

/** Energy of the counting run, carried as its capacity was, Wh. */
function energyOf({ stored, counting }: JudgedFor): Estimate | null {
  if (!counting?.atClaim || !counting.run) return null;
  const runId = counting.run.id;
  const energy = stored.figures.findLast(
    (figure) => figure.quantity === 'energy' && figure.runId === runId,
  );
  if (!energy || !(counting.raw.value > 0)) return null;
  return scaledEstimate(energy, counting.atClaim.value / counting.raw.value);
}

/** Whole months between its production and its arrival; half of what the code leaves open is U. */
function ageOf({ evidence: { produced, arrivedOn } }: JudgedFor): Estimate | undefined {
  if (!produced || !arrivedOn) return undefined;
  const youngest = Math.max(0, monthsBetween(produced.until, arrivedOn));
  const oldest = Math.max(youngest, monthsBetween(produced.from, arrivedOn));
  return {
    value: (youngest + oldest) / 2,
    standardUncertainty: (oldest - youngest) / 4,
    bound: 'exact',
  };
}

/** How far a mass lies from the claimed one, as a share of it. */
function massOff(mass: Estimate | null | undefined, claimed: number | null): Estimate | undefined {
  const share = over(mass, claimed);
  return share && { ...share, value: Math.abs(share.value - 1) };
}

/** A charge here whose temperature was watched to its end, and raised no alarm: no other log tells of heat. */
const wasChargedCool = ({ runs, holds }: StoredEvidence): boolean => {
  const held = heldRunsOf(holds);
  return [...runs.values()].some(
    ({ id, summary }) =>
      !held.has(id) &&
      summary.maxTemperatureC !== null &&
      summary.sections.some(({ kind }) => kind === 'charge'),
  );
};

/** What an arrival leaves on a cell for good. */
export function marksOf(arrival: CellArrivalRow | undefined): GradeEvidence['marks'] {
  if (!arrival) return undefined;
  const stop = (JSON.parse(arrival.findings) as string[])
    .map(findingKind)
    .find((kind) => kind.severity === 'stop');
  if (stop) return { dangerous: stop.words };
  if (arrival.triage === 'discard') return { dangerous: arrival.triageReason ?? 'to discard' };
  return wasDeep(arrival) ? { deepestV: arrival.lowestV! } : undefined;
}

/** A cell that waits for its second look has not passed, and not failed. */
const restVerdict = (outcome: StoredEvidence['rest']): GradeEvidence['selfDischarge'] =>
  !outcome || outcome === 'secondLook' ? undefined : outcome === 'keep' ? 'met' : 'notMet';

const keptOf = <T extends object>(estimates: T): T =>
  Object.fromEntries(
    Object.entries(estimates as Record<string, Estimate | undefined>).flatMap(([name, estimate]) =>
      estimate ? [[name, kept(estimate)]] : [],
    ),
  ) as T;

/** Everything a scheme can ask of a cell beside its lot; what is not known is absent. */
export function gradeEvidenceOf(
  cell: JudgedFor,
  { claim, items: claimed, nominalV }: LotRules,
): KeptEvidence {
  const { stored, evidence, counting, items, soh } = cell;
  const item = (kind: AssessedItem['item']) => items.find((one) => one.item === kind);
  const ratedAh = claim.capacityAh?.value ?? null;
  const ac = item('acResistance');
  const dc = item('dcResistance');
  const size = item('size');
  const { arrival } = stored;
  const held = heldRunsOf(stored.holds);
  const discharges = new Set(
    stored.figures.flatMap(({ quantity, runId }) =>
      quantity === 'capacity' && runId !== null ? [runId] : [],
    ),
  ).size;
  const numbers: GradeEvidence = {
    stateOfHealth: soh ?? undefined,
    capacityShare: over(counting?.atClaim, ratedAh),
    energyShare: over(energyOf(cell), ratedAh && ratedAh * nominalV),
    acResistanceShare: over(ac?.estimate, ac?.limits?.high),
    dcResistanceShare:
      dc?.state === 'notComparable' ? undefined : over(dc?.estimate, dc?.limits?.high),
    massOff: massOff(
      item('mass')?.estimate ?? evidence.massG,
      claimed.find(({ kind }) => kind === 'mass')?.value ?? null,
    ),
    thicknessShare: over(
      size?.estimate,
      size?.limits && size.limits.low !== null && size.limits.high !== null
        ? (size.limits.low + size.limits.high) / 2
        : null,
    ),
    ageMonths: ageOf(cell),
    recoveries:
      stored.recoveries || isNumber(arrival?.firstV) ? counted(stored.recoveries ?? 0) : undefined,
    cyclesSeen: discharges > 0 ? counted(discharges) : undefined,
    deepestV: isNumber(arrival?.lowestV) ? counted(arrival.lowestV) : undefined,
  };
  const own = keptOf({
    acMohm: ac?.estimate ?? evidence.acResistanceMohm ?? undefined,
    dcMohm:
      newestOf(
        stored.figures.filter(({ runId }) => runId === null || !held.has(runId)),
        'dcResistance10s',
      ) ?? undefined,
  });
  const selfDischarge = restVerdict(stored.rest);
  const marks = marksOf(arrival);
  return {
    ...keptOf(numbers),
    ...(Object.keys(own).length > 0 && { own }),
    ...(selfDischarge && { selfDischarge }),
    ...(arrival?.graded && { inspection: arrival.graded }),
    ...(evidence.heatAlarm !== null
      ? { heat: 'notMet' as const }
      : wasChargedCool(stored) && { heat: 'met' as const }),
    ...(marks && { marks }),
  };
}
