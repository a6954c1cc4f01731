import {
  badNeighboursOf,
  checkResistances,
  type JointEvidence,
  type JointJudgement,
  judgeJoint,
  STANDS_OUT_Z,
} from '@dusk-tally/core/evidence';
import { median, robustZ } from '@dusk-tally/core/statistics';
import { type Figure, type Finding, isKnown, type Quantity } from '@dusk-tally/core/units';
import { type Settling, whatWouldSettle } from '@dusk-tally/core/verdicts';
import type { CellRow, FigureRow, RunRow } from '@dusk-tally/store';
import { type PlaceInString, placesInStrings } from '../bench';
import type { EffectiveClaim } from '../lots';
import type { Lab } from '../shared';
import { heldRunsOf } from './cell-evidence';
import type { CellLine } from './lot-views';

/** What does not add up about one cell, and what would settle it. */
export interface CellDoubts {
  findings: Finding[];
  /** Where it stood in load tests of strings, newest first. */
  inStrings: PlaceInString[];
  /** Cell or connection; null where it does not look bad under load. */
  joint: (JointJudgement & { why: string }) | null;
  settleCapacity: Settling | null;
  settleAc: Settling | null;
}

type Slim = Pick<
  FigureRow,
  'id' | 'cellId' | 'runId' | 'quantity' | 'value' | 'standardUncertainty'
>;

const DC = ['dcResistance1s', 'dcResistance10s', 'dcResistance30s'] as const;

/** The shortest DC delay one run has. */
function shortestDc(figures: readonly Slim[], runId: number): Slim | null {
  const own = figures.filter((figure) => figure.runId === runId);
  for (const quantity of DC) {
    const found = own.filter((figure) => figure.quantity === quantity).pop();
    if (found) return found;
  }
  return null;
}

/** Newest value of a quantity of every cell of a lot. */
function newestByCell(figures: readonly Slim[], quantity: Quantity): Map<number, Slim> {
  return new Map(
    figures
      .filter((figure) => figure.quantity === quantity)
      .map((figure) => [figure.cellId, figure]),
  );
}

/** What is doubtful about a cell, from its figures beside those of its lot. */
export async function doubtsOf(
  lab: Lab,
  cell: CellRow,
  runs: readonly Omit<RunRow, 'curve'>[],
  line: CellLine,
  claim: EffectiveClaim,
): Promise<CellDoubts> {
  const { store } = lab;
  const [inStrings, all, settings, runsOfLot, holds] = await Promise.all([
    placesInStrings(lab, cell.id),
    store.figures.find(
      { lotId: cell.lotId, quantity: ['acResistance', ...DC] },
      {
        columns: ['id', 'cellId', 'runId', 'quantity', 'value', 'standardUncertainty'],
        order: [['id', 'ASC']],
      },
    ),
    store.settings.one({ id: 1 }),
    store.runs.find({ lotId: cell.lotId }, { columns: ['id', 'cellId'] }),
    store.results.holds.find({ lotId: cell.lotId }),
  ]);
  // What was set aside, is held, or was given to another cell speaks no more.
  const cellOfRun = new Map(runsOfLot.map(({ id, cellId }) => [id, cellId]));
  const held = heldRunsOf(holds);
  const speaks = (runId: number | null, cellId: number) =>
    runId === null || (cellOfRun.get(runId) === cellId && !held.has(runId));
  const figures = all.filter(({ runId, cellId }) => speaks(runId, cellId));
  const speaking = runs.filter(({ id }) => speaks(id, cell.id));
  const ids = [line.capacityFigureId, line.acFigureId].filter((id) => id !== null);
  const details = ids.length > 0 ? await store.figures.find({ id: ids }) : [];
  const detailOf = (id: number | null) => details.find((row) => row.id === id)?.detail ?? null;
  const ac = detailOf(line.acFigureId);
  const newestRun = [...speaking].sort((a, b) => b.id - a.id)[0];
  const dc = newestRun ? shortestDc(figures, newestRun.id) : null;
  const findings = [
    ...(ac?.findings ?? []),
    ...checkResistances({
      acMohm: ac?.value ?? null,
      acU: ac?.standardUncertainty,
      dcMohm: dc?.value ?? null,
      dcU: dc?.standardUncertainty,
      acHoldsJoint: ac?.bound === 'atMost',
    }),
  ];
  const guard = settings?.guardFactor ?? 1;
  const settle = (
    figure: Figure | null,
    limit: number | undefined,
    direction: 'atLeast' | 'atMost',
  ) => (figure && limit ? whatWouldSettle(figure, { value: limit, direction }, guard) : null);
  return {
    findings,
    inStrings,
    joint: jointOf(cell, speaking, figures, dc, ac, findings, inStrings[0]),
    settleCapacity:
      line.held || line.comparable === false
        ? null
        : settle(detailOf(line.capacityFigureId), claim.capacityAh?.value, 'atLeast'),
    settleAc: settle(ac, claim.acResistanceMohm?.value, 'atMost'),
  };
}

/** Below so many cells a lot has no ordinary. */
const LEAST_CELLS = 5;

function jointOf(
  cell: CellRow,
  runs: readonly Omit<RunRow, 'curve'>[],
  figures: readonly Slim[],
  dc: Slim | null,
  ac: Figure | null,
  findings: readonly Finding[],
  placed: PlaceInString | undefined,
): CellDoubts['joint'] {
  const inString = runs.find(({ summary }) => summary.string?.cells.some((c) => c.standsOut));
  const lotDc = dc ? [...newestByCell(figures, dc.quantity).values()] : [];
  const dcZ = dc
    ? robustZ(
        dc.value,
        lotDc.map(({ value }) => value),
      )
    : null;
  const badAlone =
    (dcZ !== null && lotDc.length >= LEAST_CELLS && dcZ > STANDS_OUT_Z) ||
    findings.some(({ code }) => code === 'dc-far-above-ac' || code === 'dc-holds-leads');
  const tightened = tightenedOf(cell, runs, figures);
  const outInString = placed?.standsOut ?? inString !== undefined;
  if (!badAlone && !outInString && !tightened) return null;
  const lotAc = [...newestByCell(figures, 'acResistance').values()].map(({ value }) => value);
  const evidence: JointEvidence = {
    acMohm: ac?.value ?? null,
    // Over the joint it says nothing of the cell; in a lot without spread only a like value does.
    acZ:
      ac && ac.bound !== 'atMost' && lotAc.length >= LEAST_CELLS
        ? ordinaryZ(ac.value, lotAc)
        : null,
    lotAcMohm: lotAc.length >= LEAST_CELLS ? median(lotAc) : null,
    tightened,
    badNeighbours: placed?.badNeighbours ?? (inString ? neighboursOf(inString) : null),
    readInsideTester: runs[0]?.leadMohm !== null && runs[0]?.leadMohm !== undefined,
  };
  const lotMohm = lotDc.length >= LEAST_CELLS ? median(lotDc.map(({ value }) => value)) : null;
  const why = dc
    ? `DC resistance ${dc.value.toPrecision(3)} mΩ${lotMohm === null ? '' : `, the lot ${lotMohm.toPrecision(3)} mΩ`}.`
    : 'Its voltage in the string falls further than its neighbours’.';
  return { ...judgeJoint(evidence), why };
}

/** In a lot whose values are all alike, one within this share of them is ordinary. */
const ALIKE = 0.05;

/** Robust z; without spread 0 for a like value, and null for another. */
function ordinaryZ(value: number, lot: readonly number[]): number | null {
  return robustZ(value, [...lot]) ?? (Math.abs(value / median([...lot]) - 1) <= ALIKE ? 0 : null);
}

function neighboursOf({ summary }: Pick<RunRow, 'summary'>): string[] {
  const cells = summary.string!.cells.map((cell, i) => ({
    position: i + 1,
    z: cell.z,
    standsOut: cell.standsOut,
  }));
  return [
    ...new Set(
      cells
        .filter(({ standsOut }) => standsOut)
        .flatMap(({ position }) => badNeighboursOf(cells, position)),
    ),
  ];
}

/** The DC figure of the last run before the joint was made again, and of the newest after. */
function tightenedOf(
  { retightenedAt }: CellRow,
  runs: readonly Omit<RunRow, 'curve'>[],
  figures: readonly Slim[],
): JointEvidence['tightened'] {
  if (!retightenedAt) return null;
  const ordered = [...runs].sort((a, b) => a.id - b.id);
  const before = ordered.filter((run) => run.createdAt <= retightenedAt).pop();
  const after = ordered.filter((run) => run.createdAt > retightenedAt).pop();
  if (!before || !after) return null;
  for (const quantity of DC) {
    const of = (runId: number) =>
      figures.filter((figure) => figure.runId === runId && figure.quantity === quantity).pop();
    const [first, second] = [of(before.id), of(after.id)];
    if (first && second)
      return {
        beforeMohm: first.value,
        afterMohm: second.value,
        expandedMohm:
          isKnown(first) && isKnown(second)
            ? 2 * Math.hypot(first.standardUncertainty, second.standardUncertainty)
            : null,
      };
  }
  return null;
}
