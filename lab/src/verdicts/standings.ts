import { needsLot } from '@dusk-tally/core/verdicts';
import type { CellArrivalRow, CellRow, Transaction } from '@dusk-tally/store';
import { keepSampleResults } from '../arrivals';
import type { Origin } from '../derived';
import { conditionedCells } from '../evidence';
import { loadClaim } from '../lots';
import { found, type Lab } from '../shared';
import { meterKnowledge, type SlimFigure, storeAtClaim } from './at-claim';
import { boxMassOf, claimedItems, type LotRules } from './cell-evidence';
import { handsOf, stepsOf, typedConditionsOf } from './test-conditions';
import { refreshGrounds, storedGrounds } from './grading/grounds';
import { saidOf, saidOfCell } from './grading/said-of-cells';
import { schemeFor } from './grading/schemes';
import { holdContext, storeHolds } from './holds';
import { noteDay } from './lot-days';
import { type JudgedCell, writeJudged } from './write-judged';
import { judgeStored, type Pass } from './judge-stored';

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
export async function rulesOf(
  lab: Lab,
  lotId: number,
  transaction: Transaction,
): Promise<LotRules> {
  const [lotClaim, settings] = await Promise.all([
    loadClaim(lab, lotId, transaction),
    lab.store.settings.one({ id: 1 }, { transaction }),
  ]);
  const { claim, model, lot, profile } = lotClaim;
  const scheme = await schemeFor(lab, model, transaction);
  return {
    claim,
    items: claimedItems(claim),
    knowledge: await meterKnowledge(lab, model.id, transaction),
    holding: holdContext(
      lotClaim,
      settings?.holdLimits ?? null,
      await conditionedCells(lab, lotId, transaction),
    ),
    guardFactor: found(settings, 'The lab’s settings').guardFactor,
    scheme,
    grounds: needsLot(scheme) ? await storedGrounds(lab, lotId, transaction) : null,
    nominalV: profile.nominalV,
    arrivedOn: lot.arrivedOn,
    boxMassG: await boxMassOf(lab, lotId, lot.quantity, transaction),
    stepsA: new Map(),
    hands: new Map(),
  };
}

/**
 * Works out again where cells of a lot stand: every claimed item and the grade, from their newest
 * figures.
 * @param cellIds null for all cells of the lot.
 * @param origin the act it goes back to; what it moves in other lots is noted there.
 * @returns cells of which rules hold others than before, in groups: what fits may read changed.
 */
export async function refreshStandings(
  lab: Lab,
  lotId: number,
  cellIds: number[] | null,
  transaction: Transaction,
  origin?: Origin,
): Promise<number[][]> {
  const { store } = lab;
  const [rules, said, cells, arrivals, withFigures] = await Promise.all([
    rulesOf(lab, lotId, transaction),
    saidOf(lab, lotId, cellIds, transaction),
    store.cells.find(cellIds ? { lotId, id: cellIds } : { lotId }, { transaction }),
    store.arrivals.cells.find(cellIds ? { lotId, cellId: cellIds } : { lotId }, { transaction }),
    store.evidence.cellsWithFigures(lotId, cellIds, transaction),
  ]);
  const arrivalOf = new Map(arrivals.map((row) => [row.cellId, row]));
  const pass: Pass = { lab, lotId, rules, said, now: lab.now(), heldAnew: [] };
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
  await writeJudged(lab, { lotId, judged, isWholeLot: cellIds === null, origin }, transaction);
  await noteDay(lab, lotId, transaction);
  await keepSampleResults(lab, lotId, transaction);
  if (needsLot(rules.scheme) && (await refreshGrounds(lab, lotId, transaction)))
    // Every cell of the lot is held against what changed.
    pass.heldAnew.push(...(await refreshStandings(lab, lotId, null, transaction, origin)));
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
    const said = saidOfCell(pass.said, cell.id);
    const key = JSON.stringify([
      said,
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
    ]);
    const like =
      known.get(key) ??
      judgeStored(cell, { figures: [], runs: new Map(), arrival, holds: [], ...said }, pass);
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
  const [figures, holds, rests, runs] = await Promise.all([
    standingFigures(lab, lotId, ids, transaction),
    lab.store.results.holds.find({ lotId, cellId: ids }, { transaction }),
    lab.store.resting.rests.find(
      { lotId, cellId: ids, takenOff: false },
      { transaction, columns: ['cellId', 'outcome'], order: [['id', 'ASC']] },
    ),
    lab.store.runs.find(
      { cellId: ids },
      {
        transaction,
        columns: [
          ...['id', 'cellId', 'summary', 'channelId', 'ambientC', 'clamping'],
          ...['startedAt', 'createdAt'],
        ] as const,
        order: [['id', 'ASC']],
      },
    ),
  ]);
  const rules = {
    ...pass.rules,
    stepsA: await stepsOf(lab, figures, transaction),
    hands: new Map([
      ...(await typedConditionsOf(lab, lotId, { figures, cellIds: ids }, transaction)),
      ...(await handsOf(lab, figures, transaction)),
    ]),
  };
  const judged = cells.map((cell) =>
    judgeStored(
      cell,
      {
        figures: figures.filter(({ cellId }) => cellId === cell.id),
        runs: new Map(runs.flatMap((run) => (run.cellId === cell.id ? [[run.id, run]] : []))),
        arrival: arrivalOf.get(cell.id),
        holds: holds.filter(({ cellId }) => cellId === cell.id),
        rest: rests.findLast(({ cellId, outcome }) => cellId === cell.id && outcome !== null)
          ?.outcome,
        ...saidOfCell(pass.said, cell.id),
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
