import {
  assessCell,
  type AssessedItem,
  type GradeEvidence,
  gradeCell,
  healthEstimate,
  SHIPPED_SCHEME,
} from '@dusk-tally/core/verdicts';
import { type Estimate, scaledEstimate } from '@dusk-tally/core/units';
import type { CellArrivalRow, CellRow, StandingRow, Transaction } from '@dusk-tally/store';
import { findingKind } from '@dusk-tally/core/arrivals';
import { loadClaim } from '../lots';
import { wasDeep } from '../arrivals';
import { hashOf } from '../evidence';
import { found, type Lab } from '../shared';
import { assessmentRow } from './assessment-rows';
import { meterKnowledge, type PendingAtClaim, type SlimFigure, storeAtClaim } from './at-claim';
import {
  boxMassOf,
  claimedItems,
  evidenceOf,
  type LotRules,
  newestOf,
  stepsOf,
  type StoredEvidence,
} from './cell-evidence';
import { type CellResult, holdContext, storeHolds } from './holds';
import { type JudgedCell, writeJudged } from './write-judged';

/** A judged cell, and the carried figure that is still to be stored for it. */
interface Stood extends JudgedCell {
  pending: PendingAtClaim | null;
  results: readonly CellResult[];
}

/** One pass over cells of a lot. */
interface Pass {
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

function judgeStored(cell: CellRow, stored: StoredEvidence, { rules, now }: Pass): Stood {
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
    }),
    updatedAt: now,
  };
  const pending =
    isCarried && !carried && shown!.run
      ? { raw: shown!.raw, run: shown!.run, inputHash: shown!.stood.inputHash }
      : null;
  return { row, items: assessed.map(assessmentRow), pending, results };
}

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

/** Newest figures, without those of typed readings that were replaced or taken back. */
export async function standingFigures(
  lab: Lab,
  lotId: number,
  cellIds: number[] | null,
  transaction: Transaction,
): Promise<SlimFigure[]> {
  const [figures, readings] = await Promise.all([
    lab.store.evidence.latestFigures(lotId, cellIds, transaction),
    lab.store.evidence.latestReadings(lotId, cellIds, transaction),
  ]);
  const valid = new Set(
    readings.filter((reading) => reading.value !== null).map((reading) => reading.id),
  );
  return figures.filter((figure) => figure.readingId === null || valid.has(figure.readingId));
}

/** What the cells of a lot are judged by, read once. */
async function rulesOf(lab: Lab, lotId: number, transaction: Transaction): Promise<LotRules> {
  const [lotClaim, settings] = await Promise.all([
    loadClaim(lab, lotId, transaction),
    lab.store.settings.one({ id: 1 }, { transaction }),
  ]);
  const { claim, model, lot } = lotClaim;
  return {
    claim,
    items: claimedItems(claim),
    knowledge: await meterKnowledge(lab, model.id, transaction),
    holding: holdContext(lotClaim, settings?.holdLimits ?? null),
    guardFactor: found(settings, 'The lab’s settings').guardFactor,
    arrivedOn: lot.arrivedOn,
    boxMassG: await boxMassOf(lab, lotId, lot.quantity, transaction),
    stepsA: new Map(),
  };
}

/**
 * Works out again where cells of a lot stand: every claimed item and the grade, from their newest
 * figures.
 * @param cellIds null for all cells of the lot.
 * @returns cells of which rules hold others than before, in groups: what fits may read changed.
 */
export async function refreshStandings(
  lab: Lab,
  lotId: number,
  cellIds: number[] | null,
  transaction: Transaction,
): Promise<number[][]> {
  const { store } = lab;
  const [rules, cells, arrivals, withFigures] = await Promise.all([
    rulesOf(lab, lotId, transaction),
    store.cells.find(cellIds ? { lotId, id: cellIds } : { lotId }, { transaction }),
    store.arrivals.cells.find(cellIds ? { lotId, cellId: cellIds } : { lotId }, { transaction }),
    store.evidence.cellsWithFigures(lotId, cellIds, transaction),
  ]);
  const arrivalOf = new Map(arrivals.map((row) => [row.cellId, row]));
  const pass: Pass = { lab, lotId, rules, now: lab.now(), heldAnew: [] };
  const measured = new Set(withFigures);
  const judged: JudgedCell[] = unmeasured(
    cells.filter((cell) => !measured.has(cell.id)),
    arrivalOf,
    pass,
  );
  const rest = cells.filter((cell) => measured.has(cell.id));
  for (let from = 0; from < rest.length; from += CELLS_AT_ONCE) {
    const some = rest.slice(from, from + CELLS_AT_ONCE);
    judged.push(...(await judgeMeasured(some, arrivalOf, pass, transaction)));
  }
  await writeJudged(lab, { lotId, judged, isWholeLot: cellIds === null }, transaction);
  return pass.heldAnew;
}

/** Cells judged in one go: others are answered in between. */
const CELLS_AT_ONCE = 50;

/** Cells nothing was measured of stand alike wherever their arrival is alike. */
function unmeasured(
  cells: CellRow[],
  arrivalOf: Map<number, CellArrivalRow>,
  pass: Pass,
): JudgedCell[] {
  const known = new Map<string, JudgedCell>();
  return cells.map((cell) => {
    const arrival = arrivalOf.get(cell.id);
    const key = JSON.stringify(
      arrival && [
        arrival.inspected,
        arrival.graded,
        arrival.findings,
        arrival.found,
        arrival.triage,
        arrival.triageReason,
        arrival.lowestV,
        arrival.producedOn,
        arrival.producedUntil,
      ],
    );
    const like =
      known.get(key) ??
      judgeStored(cell, { figures: [], runs: new Map(), arrival, holds: [] }, pass);
    known.set(key, like);
    return { items: like.items, row: { ...like.row, cellId: cell.id } };
  });
}

/** Where cells stand that something was measured of; figures carried to the claim are stored. */
async function judgeMeasured(
  cells: CellRow[],
  arrivalOf: Map<number, CellArrivalRow>,
  pass: Pass,
  transaction: Transaction,
): Promise<JudgedCell[]> {
  const { lab, lotId } = pass;
  const ids = cells.map((cell) => cell.id);
  const [figures, holds, runs] = await Promise.all([
    standingFigures(lab, lotId, ids, transaction),
    lab.store.results.holds.find({ lotId, cellId: ids }, { transaction }),
    lab.store.runs.find(
      { cellId: ids },
      {
        transaction,
        columns: ['id', 'cellId', 'summary', 'channelId', 'ambientC'],
        order: [['id', 'ASC']],
      },
    ),
  ]);
  const rules = { ...pass.rules, stepsA: await stepsOf(lab, figures, transaction) };
  const judged = cells.map((cell) =>
    judgeStored(
      cell,
      {
        figures: figures.filter(({ cellId }) => cellId === cell.id),
        runs: new Map(runs.flatMap((run) => (run.cellId === cell.id ? [[run.id, run]] : []))),
        arrival: arrivalOf.get(cell.id),
        holds: holds.filter(({ cellId }) => cellId === cell.id),
      },
      { ...pass, rules },
    ),
  );
  const results = judged.flatMap((one) => one.results);
  const changed = await storeHolds(lab, results, holds, transaction);
  if (changed.fresh + changed.gone > 0) pass.heldAnew.push(ids);
  if (changed.fresh > 0)
    // What is new has its number now, by which it is lifted.
    return judgeMeasured(cells, arrivalOf, pass, transaction);
  const pending = judged.flatMap((one) => one.pending ?? []);
  const carried = await storeAtClaim(lab, pending, rules.claim, rules.knowledge, transaction);
  return judged.map(({ row, items }) => {
    const figureId = carried.get(row.capacityRawFigureId ?? 0);
    return {
      row,
      items:
        figureId === undefined
          ? items
          : items.map((item) => (item.item === 'capacity' ? { ...item, figureId } : item)),
    };
  });
}
