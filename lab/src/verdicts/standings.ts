import { stateOfHealth } from '@dusk-tally/core/verdicts';
import {
  compareConditions,
  type GradeEvidence,
  gradeCell,
  judge,
  SHIPPED_SCHEME,
} from '@dusk-tally/core/verdicts';
import type { Figure } from '@dusk-tally/core/units';
import type {
  CellArrivalRow,
  CellRow,
  FigureRow,
  RunRow,
  StandingRow,
  Transaction,
} from '@dusk-tally/store';
import { findingKind } from '@dusk-tally/core/arrivals';
import { type EffectiveClaim, loadClaim } from '../arrivals/claims';
import { wasDeep } from '../arrivals/refresh-arrivals';
import { hashOf } from '../evidence/figure-rows';
import { found, type Lab } from '../shared';

type SlimFigure = Omit<FigureRow, 'detail'>;
type SlimRun = Pick<RunRow, 'id' | 'summary'>;

interface CellEvidence {
  figures: SlimFigure[];
  runs: Map<number, SlimRun>;
  arrival: CellArrivalRow | undefined;
}

const asResult = (figure: SlimFigure) => ({
  value: figure.value,
  standardUncertainty: figure.standardUncertainty ?? 0,
  bound: figure.bound,
});

/** Capacity that counts: of the newest run at the claim's cut-off, else the newest one typed. */
function capacityOf(figures: SlimFigure[], cutoffV: number): SlimFigure | null {
  const newest = (list: SlimFigure[]) => list.sort((a, b) => b.id - a.id)[0] ?? null;
  const capacities = figures.filter((figure) => figure.quantity === 'capacity');
  return (
    newest(capacities.filter((figure) => figure.runId !== null && figure.cutoffV === cutoffV)) ??
    newest(capacities.filter((figure) => figure.readingId !== null))
  );
}

function conditionsOf(
  capacity: SlimFigure,
  evidence: CellEvidence,
  claim: EffectiveClaim,
): { comparable: boolean; differences: string[] } {
  const run = capacity.runId === null ? null : (evidence.runs.get(capacity.runId) ?? null);
  if (!run)
    return {
      comparable: true,
      differences: ['Typed in: rate, cut-off and temperature of the test are not recorded.'],
    };
  return compareConditions(
    {
      rateIt: claim.rateIt?.value ?? null,
      cutoffV: claim.cutoffV.value,
      temperatureC: claim.temperatureC?.value ?? null,
    },
    {
      meanCurrentA: run.summary.meanCurrentA,
      ratedAh: claim.capacityAh?.value ?? capacity.value,
      meanTemperatureC: run.summary.meanTemperatureC,
      restBeforeS: run.summary.restBeforeS,
    },
  );
}

function standingOf(
  cell: CellRow,
  evidence: CellEvidence,
  claim: EffectiveClaim,
  guardFactor: number,
  updatedAt: Date,
): StandingRow {
  const scheme = SHIPPED_SCHEME;
  const capacity = capacityOf(evidence.figures, claim.cutoffV.value);
  const newestTyped = (quantity: string) =>
    evidence.figures.filter((f) => f.quantity === quantity).sort((a, b) => b.id - a.id)[0] ?? null;
  const ac = newestTyped('acResistance');
  const ocv = newestTyped('openCircuitVoltage');
  const conditions = capacity ? conditionsOf(capacity, evidence, claim) : null;
  const rated = claim.capacityAh?.value ?? null;
  const claimedAc = claim.acResistanceMohm?.value ?? null;
  const judged =
    capacity && rated && conditions?.comparable
      ? judge(asResult(capacity), { value: rated, direction: 'atLeast' }, guardFactor)
      : null;
  const judgedAc =
    ac && claimedAc
      ? judge(asResult(ac), { value: claimedAc, direction: 'atMost' }, guardFactor)
      : null;
  const soh = capacity && rated && conditions?.comparable ? healthOf(capacity, rated) : null;
  const grade = gradeCell(
    scheme,
    {
      stateOfHealth: soh ?? undefined,
      acResistanceShare:
        ac && claimedAc
          ? {
              value: ac.value / claimedAc,
              standardUncertainty: (ac.standardUncertainty ?? 0) / claimedAc,
              bound: 'exact',
            }
          : undefined,
      inspection: evidence.arrival?.graded ?? undefined,
      marks: marksOf(evidence.arrival),
    },
    guardFactor,
  );
  return {
    cellId: cell.id,
    lotId: cell.lotId,
    capacityFigureId: capacity?.id ?? null,
    capacityAh: capacity?.value ?? null,
    capacityU:
      capacity?.standardUncertainty === null || !capacity
        ? null
        : 2 * capacity.standardUncertainty!,
    capacityBound: capacity?.bound ?? null,
    comparable: conditions?.comparable ?? null,
    capacityVerdict: judged?.verdict ?? null,
    capacityProbability: judged?.probability ?? null,
    acFigureId: ac?.id ?? null,
    acMohm: ac?.value ?? null,
    acU: ac ? 2 * (ac.standardUncertainty ?? 0) : null,
    acVerdict: judgedAc?.verdict ?? null,
    acProbability: judgedAc?.probability ?? null,
    ocvV: ocv?.value ?? null,
    stateOfHealth: soh?.value ?? null,
    grade: grade.grade,
    detail: {
      reasons: grade.reasons,
      waitingFor: grade.waitingFor,
      differences: conditions?.differences ?? [],
      scheme: scheme.name,
      schemeVersion: scheme.version,
    },
    inputHash: hashOf({
      figures: [capacity?.inputHash ?? null, ac?.inputHash ?? null, ocv?.inputHash ?? null],
      ids: [capacity?.id ?? null, ac?.id ?? null, ocv?.id ?? null],
      rated,
      claimedAc,
      conditions: [
        claim.rateIt?.value ?? null,
        claim.cutoffV.value,
        claim.temperatureC?.value ?? null,
      ],
      guardFactor,
      scheme: [scheme.name, scheme.version],
      inspection: evidence.arrival?.graded ?? null,
      marks: marksOf(evidence.arrival) ?? null,
    }),
    updatedAt,
  };
}

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

function healthOf(capacity: SlimFigure, ratedAh: number): Figure {
  const figure = {
    ...capacity,
    method: { name: capacity.method, version: capacity.methodVersion },
    inputs: [],
    steps: [],
    findings: [],
    budget: [],
  };
  return stateOfHealth(figure as unknown as Figure, ratedAh);
}

/** Newest figures, without those of typed readings that were replaced or taken back. */
export async function standingFigures(
  lab: Lab,
  lotId: number,
  cellIds: number[] | null,
  transaction: Transaction,
): Promise<SlimFigure[]> {
  const [figures, readings] = [
    await lab.store.latestFigures(lotId, cellIds, transaction),
    await lab.store.latestReadings(lotId, cellIds, transaction),
  ];
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
  const { claim } = await loadClaim(lab, lotId, transaction);
  const settings = found(
    await store.settings.one({ id: 1 }, { transaction }),
    'The lab’s settings',
  );
  const cells = await store.cells.find(cellIds ? { lotId, id: cellIds } : { lotId }, {
    transaction,
  });
  const figures = await standingFigures(lab, lotId, cellIds, transaction);
  const runIds = [...new Set(figures.flatMap((figure) => figure.runId ?? []))];
  const runs =
    runIds.length > 0
      ? await store.runs.find({ id: runIds }, { transaction, columns: ['id', 'summary'] })
      : [];
  const runById = new Map(runs.map((run) => [run.id, run]));
  const byCell = new Map<number, SlimFigure[]>();
  for (const figure of figures) {
    const list = byCell.get(figure.cellId);
    if (list) list.push(figure);
    else byCell.set(figure.cellId, [figure]);
  }
  const arrivals = await store.arrivals.cells.find(
    cellIds ? { lotId, cellId: cellIds } : { lotId },
    {
      transaction,
    },
  );
  const arrivalOf = new Map(arrivals.map((row) => [row.cellId, row]));
  const now = lab.now();
  const unmeasured = new Map<string, StandingRow>();
  await writeStandings(
    lab,
    lotId,
    cells.map((cell) => {
      const own = byCell.get(cell.id);
      const arrival = arrivalOf.get(cell.id);
      const make = () =>
        standingOf(
          cell,
          { figures: own ?? [], runs: runById, arrival },
          claim,
          settings.guardFactor,
          now,
        );
      if (own) return make();
      // Cells nothing was measured of stand alike wherever their arrival is alike.
      const key = `${arrival?.graded}|${arrival?.findings}|${arrival?.triageReason}|${arrival?.lowestV}`;
      const like = unmeasured.get(key) ?? make();
      unmeasured.set(key, like);
      return { ...like, cellId: cell.id };
    }),
    transaction,
  );
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
