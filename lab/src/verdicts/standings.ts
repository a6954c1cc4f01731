import {
  type GradeEvidence,
  gradeCell,
  healthEstimate,
  judge,
  SHIPPED_SCHEME,
} from '@dusk-tally/core/verdicts';
import { isKnown, scaledEstimate } from '@dusk-tally/core/units';
import type {
  CellArrivalRow,
  CellRow,
  ResultHoldRow,
  StandingRow,
  Transaction,
} from '@dusk-tally/store';
import { findingKind } from '@dusk-tally/core/arrivals';
import { type EffectiveClaim, loadClaim } from '../arrivals/claims';
import { wasDeep } from '../arrivals/refresh-arrivals';
import { refreshMeters } from '../evidence/channel-effects';
import { hashOf } from '../evidence/figure-rows';
import { found, type Lab } from '../shared';
import {
  type CellResult,
  counting,
  heldBy,
  type HoldContext,
  holdContext,
  ruleHolds,
  storeHolds,
} from './holds';
import {
  meterKnowledge,
  type MeterKnowledge,
  type PendingAtClaim,
  type SlimFigure,
  type SlimRun,
  standAtClaim,
  storeAtClaim,
} from './at-claim';

interface CellEvidence {
  figures: SlimFigure[];
  runs: Map<number, SlimRun>;
  arrival: CellArrivalRow | undefined;
  holds: ResultHoldRow[];
}

/** All capacities of a cell at the claim’s cut-off, and the newest one typed, with what holds them. */
function resultsOf({ figures, runs, holds }: CellEvidence, bench: Bench): CellResult[] {
  const { claim, knowledge } = bench;
  const capacities = figures.filter((figure) => figure.quantity === 'capacity');
  const typed = capacities
    .filter((figure) => figure.runId === null && figure.readingId !== null)
    .sort((a, b) => b.id - a.id)
    .slice(0, 1);
  const traced = capacities.filter(
    (figure) => figure.runId !== null && figure.cutoffV === claim.cutoffV.value,
  );
  const stood = [...traced, ...typed].map((raw) => {
    const run = raw.runId === null ? null : (runs.get(raw.runId) ?? null);
    return { raw, run, stood: standAtClaim(raw, run, claim, knowledge) };
  });
  const ruled = ruleHolds(stood, figures, holds, bench.holding);
  return stood.map((one, i) => {
    const result = { ...one, ruled: ruled[i]! };
    return { ...result, held: heldBy(result, holds) };
  });
}

/** A standing, and the carried figure that is still to be stored for it. */
interface Stood {
  row: StandingRow;
  pending: PendingAtClaim | null;
  results: CellResult[];
}

/** What all cells of a lot are judged by. */
interface Bench {
  claim: EffectiveClaim;
  knowledge: MeterKnowledge;
  holding: HoldContext;
  guardFactor: number;
  now: Date;
  /** A result became held, or free: fits over repeats are to be made new. */
  holdsChanged: boolean;
}

function standingOf(cell: CellRow, evidence: CellEvidence, bench: Bench): Stood {
  const { claim, guardFactor, now } = bench;
  const scheme = SHIPPED_SCHEME;
  const results = resultsOf(evidence, bench);
  const free = counting(results);
  const isHeld = free === null && results.length > 0;
  // Where everything is held the newest result is shown, and nothing is judged by it.
  const shown = free ?? results.reduce<CellResult | null>(newer, null);
  const { raw, run, stood } = shown ?? { raw: null, run: null, stood: null };
  const holds = results.flatMap(({ held }) => held);
  const heldText = isHeld ? (shown!.held[0]?.text.slice(0, 255) ?? null) : null;
  const isCarried = stood !== null && stood.corrections.length > 0;
  const stored = isCarried
    ? evidence.figures.find(
        (f) => f.quantity === 'capacityAtClaim' && f.inputHash === stood.inputHash,
      )
    : null;
  // Where it cannot be carried the measured value stands, and nothing is judged by it.
  const capacity = stood ? (stood.estimate ?? raw) : null;
  const newestTyped = (quantity: string) =>
    evidence.figures.filter((f) => f.quantity === quantity).sort((a, b) => b.id - a.id)[0] ?? null;
  const ac = newestTyped('acResistance');
  const ocv = newestTyped('openCircuitVoltage');
  const comparable = stood ? stood.estimate !== null : null;
  const judges = comparable && !isHeld;
  const rated = claim.capacityAh?.value ?? null;
  const claimedAc = claim.acResistanceMohm?.value ?? null;
  const judged =
    capacity && rated && judges && isKnown(capacity)
      ? judge(capacity, { value: rated, direction: 'atLeast' }, guardFactor)
      : null;
  const judgedAc =
    ac && claimedAc && isKnown(ac)
      ? judge(ac, { value: claimedAc, direction: 'atMost' }, guardFactor)
      : null;
  const soh = capacity && rated && judges ? healthEstimate(capacity, rated) : null;
  const grade = gradeCell(
    scheme,
    {
      stateOfHealth: soh ?? undefined,
      acResistanceShare: ac && claimedAc ? scaledEstimate(ac, 1 / claimedAc) : undefined,
      inspection: evidence.arrival?.graded ?? undefined,
      marks: marksOf(evidence.arrival),
    },
    guardFactor,
  );
  const row: StandingRow = {
    cellId: cell.id,
    lotId: cell.lotId,
    capacityFigureId: stored?.id ?? raw?.id ?? null,
    capacityAh: capacity?.value ?? null,
    capacityU: capacity ? twice(capacity.standardUncertainty) : null,
    capacityBound: capacity?.bound ?? null,
    capacityRawFigureId: raw?.id ?? null,
    capacityRawAh: raw?.value ?? null,
    held: heldText,
    comparable,
    capacityVerdict: judged?.verdict ?? null,
    capacityProbability: judged?.probability ?? null,
    acFigureId: ac?.id ?? null,
    acMohm: ac?.value ?? null,
    acU: ac ? twice(ac.standardUncertainty) : null,
    acVerdict: judgedAc?.verdict ?? null,
    acProbability: judgedAc?.probability ?? null,
    ocvV: ocv?.value ?? null,
    stateOfHealth: soh?.value ?? null,
    grade: grade.grade,
    detail: {
      reasons: grade.reasons,
      waitingFor: isHeld ? [lookWords(shown!.held)] : grade.waitingFor,
      holds,
      differences: stood?.differences ?? [],
      corrections: stood?.corrections ?? [],
      acBound: ac?.bound ?? null,
      scheme: scheme.name,
      schemeVersion: scheme.version,
    },
    inputHash: hashOf({
      figures: [stood?.inputHash ?? null, ac?.inputHash ?? null, ocv?.inputHash ?? null],
      ids: [raw?.id ?? null, ac?.id ?? null, ocv?.id ?? null],
      rated,
      claimedAc,
      held: [heldText, holds],
      guardFactor,
      scheme: [scheme.name, scheme.version],
      inspection: evidence.arrival?.graded ?? null,
      marks: marksOf(evidence.arrival) ?? null,
    }),
    updatedAt: now,
  };
  const pending =
    isCarried && !stored && run && raw ? { raw, run, inputHash: stood.inputHash } : null;
  return { row, pending, results };
}

const lookWords = (held: CellResult['held']): string =>
  held.every(({ rule }) => rule === 'channel') ? 'a look at its channel' : 'a look at what is held';

/** The later taken in of two results. */
const newer = (a: CellResult | null, b: CellResult): CellResult =>
  a !== null && (a.raw.runId ?? a.raw.id) > (b.raw.runId ?? b.raw.id) ? a : b;

const twice = (u: number | null): number | null => (u === null ? null : 2 * u);

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
    lab.store.latestFigures(lotId, cellIds, transaction),
    lab.store.latestReadings(lotId, cellIds, transaction),
  ]);
  const valid = new Set(
    readings.filter((reading) => reading.value !== null).map((reading) => reading.id),
  );
  return figures.filter((figure) => figure.readingId === null || valid.has(figure.readingId));
}

/**
 * Works out again where cells of a lot stand: verdicts and grade from their newest figures.
 * @param cellIds null for all cells of the lot.
 */
export async function refreshStandings(
  lab: Lab,
  lotId: number,
  cellIds: number[] | null,
  transaction: Transaction,
): Promise<void> {
  const { store } = lab;
  const someCells = cellIds ? { lotId, id: cellIds } : { lotId };
  const [lotClaim, settings, cells, arrivals, withFigures] = await Promise.all([
    loadClaim(lab, lotId, transaction),
    store.settings.one({ id: 1 }, { transaction }),
    store.cells.find(someCells, { transaction }),
    store.arrivals.cells.find(cellIds ? { lotId, cellId: cellIds } : { lotId }, { transaction }),
    store.cellsWithFigures(lotId, cellIds, transaction),
  ]);
  const { claim, model } = lotClaim;
  const arrivalOf = new Map(arrivals.map((row) => [row.cellId, row]));
  const bench: Bench = {
    claim,
    knowledge: await meterKnowledge(lab, model.id, transaction),
    holding: holdContext(lotClaim, settings?.holdLimits ?? null),
    guardFactor: found(settings, 'The lab’s settings').guardFactor,
    now: lab.now(),
    holdsChanged: false,
  };
  const measured = new Set(withFigures);
  const rows = unmeasuredStandings(
    cells.filter((cell) => !measured.has(cell.id)),
    arrivalOf,
    bench,
  );
  const rest = cells.filter((cell) => measured.has(cell.id));
  for (let from = 0; from < rest.length; from += CELLS_AT_ONCE) {
    const some = rest.slice(from, from + CELLS_AT_ONCE);
    rows.push(...(await measuredStandings(lab, lotId, some, arrivalOf, bench, transaction)));
  }
  await writeStandings(lab, lotId, rows, transaction);
  if (!bench.holdsChanged) return;
  for (const touched of await refreshMeters(lab, transaction))
    await refreshStandings(lab, touched, null, transaction);
}

/** Cells judged in one go: others are answered in between. */
const CELLS_AT_ONCE = 50;

/** Cells nothing was measured of stand alike wherever their arrival is alike. */
function unmeasuredStandings(
  cells: CellRow[],
  arrivalOf: Map<number, CellArrivalRow>,
  bench: Bench,
): StandingRow[] {
  const known = new Map<string, StandingRow>();
  return cells.map((cell) => {
    const arrival = arrivalOf.get(cell.id);
    const key = `${arrival?.graded}|${arrival?.findings}|${arrival?.triageReason}|${arrival?.lowestV}`;
    const like =
      known.get(key) ??
      standingOf(cell, { figures: [], runs: new Map(), arrival, holds: [] }, bench).row;
    known.set(key, like);
    return { ...like, cellId: cell.id };
  });
}

/** Where cells stand that something was measured of; figures carried to the claim are stored. */
async function measuredStandings(
  lab: Lab,
  lotId: number,
  cells: CellRow[],
  arrivalOf: Map<number, CellArrivalRow>,
  bench: Bench,
  transaction: Transaction,
): Promise<StandingRow[]> {
  const ids = cells.map((cell) => cell.id);
  const [figures, holds] = await Promise.all([
    standingFigures(lab, lotId, ids, transaction),
    lab.store.results.holds.find({ lotId, cellId: ids }, { transaction }),
  ]);
  const runIds = [...new Set(figures.flatMap((figure) => figure.runId ?? []))];
  const runs =
    runIds.length > 0
      ? await lab.store.runs.find(
          { id: runIds },
          { transaction, columns: ['id', 'summary', 'channelId', 'ambientC'] },
        )
      : [];
  const runById = new Map(runs.map((run) => [run.id, run]));
  const byCell = new Map(ids.map((id): [number, SlimFigure[]] => [id, []]));
  for (const figure of figures) byCell.get(figure.cellId)?.push(figure);
  const stood = cells.map((cell) =>
    standingOf(
      cell,
      {
        figures: byCell.get(cell.id) ?? [],
        runs: runById,
        arrival: arrivalOf.get(cell.id),
        holds: holds.filter(({ cellId }) => cellId === cell.id),
      },
      bench,
    ),
  );
  const results = stood.flatMap((one) => one.results);
  const changed = await storeHolds(lab, results, holds, transaction);
  if (changed.fresh + changed.gone > 0) bench.holdsChanged = true;
  if (changed.fresh > 0)
    // What is new has its number now, by which it is lifted.
    return measuredStandings(lab, lotId, cells, arrivalOf, bench, transaction);
  const pending = stood.flatMap((one) => one.pending ?? []);
  const carried = await storeAtClaim(lab, pending, bench.claim, bench.knowledge, transaction);
  return stood.map(({ row }) => ({
    ...row,
    capacityFigureId: carried.get(row.capacityRawFigureId ?? 0) ?? row.capacityFigureId,
  }));
}

/** Rows that are as they were are left; those that became alike are written in one statement. */
async function writeStandings(
  lab: Lab,
  lotId: number,
  rows: StandingRow[],
  transaction: Transaction,
): Promise<void> {
  const { standings } = lab.store;
  const before = await standings.find({ lotId }, { transaction, columns: ['cellId', 'inputHash'] });
  const hashes = new Map(before.map((row) => [row.cellId, row.inputHash]));
  const single: StandingRow[] = [];
  const alike = new Map<string, StandingRow[]>();
  for (const row of rows) {
    const was = hashes.get(row.cellId);
    if (was === row.inputHash) continue;
    // Cells without a figure of their own that share a hash share the whole row.
    const bare = row.capacityFigureId === null && row.acFigureId === null && row.ocvV === null;
    if (was === undefined || !bare) single.push(row);
    else {
      const group = alike.get(row.inputHash);
      if (group) group.push(row);
      else alike.set(row.inputHash, [row]);
    }
  }
  for (const group of alike.values()) {
    const { cellId: _cell, lotId: _lot, ...patch } = group[0]!;
    await standings.update(patch, { cellId: group.map((row) => row.cellId) }, transaction);
  }
  if (single.length > 0) await standings.replaceMany(single, transaction);
}
