import type { ClaimKind } from '@dusk-tally/core/arrivals';
import type { ChemistryProfile } from '@dusk-tally/core/chemistry';
import type { Correction } from '@dusk-tally/core/evidence';
import type { LifeState } from '@dusk-tally/core/stock';
import { type Bound, expandedUncertainty } from '@dusk-tally/core/units';
import type { ItemStateName, Verdict } from '@dusk-tally/core/verdicts';
import {
  type AssessmentRow,
  type CellModelRow,
  type CellRow,
  type ClaimItemRow,
  type HeldResult,
  type LotRow,
  type StandingRow,
  type SupplierRow,
} from '@dusk-tally/store';
import { z } from 'zod';
import { arrivalsOf, type ArrivalView } from '../arrivals';
import { type EffectiveClaim, lifeStates, loadClaims } from '../lots';
import { found, type Lab, question } from '../shared';
import { type Stroke, strokesOf } from './lot-strokes';

/** A cell as the lot's tables show it. */
export interface CellLine {
  id: number;
  number: string;
  label: string | null;
  /** Where it is in its life. */
  life: LifeState;
  capacityAh: number | null;
  capacityU: number | null;
  bound: Bound | null;
  /** As measured, before anything was carried to the claim’s conditions. */
  capacityRawAh: number | null;
  capacityRawFigureId: number | null;
  corrections: Correction[];
  /** Why nothing measured of it counts; null where something does. */
  held: string | null;
  /** All its results that are held. */
  holds: HeldResult[];
  comparable: boolean | null;
  verdict: Verdict | null;
  probability: number | null;
  acMohm: number | null;
  acU: number | null;
  acBound: string | null;
  acVerdict: Verdict | null;
  /** Other claimed items that speak against it: not met, or contradicted. */
  against: ClaimKind[];
  ocvV: number | null;
  stateOfHealth: number | null;
  grade: string | null;
  reasons: string[];
  waitingFor: string[];
  differences: string[];
  capacityFigureId: number | null;
  acFigureId: number | null;
}

export interface LotHead {
  lot: LotRow;
  supplier: SupplierRow;
  model: CellModelRow;
  profile: ChemistryProfile;
  claimItems: ClaimItemRow[];
  claim: EffectiveClaim;
  strokes: Stroke[];
  tested: number;
  resistances: number;
}

/** What every page and row of a lot starts from, asked of all lots at once: in their order. */
export async function headsOf(lab: Lab, lots: readonly LotRow[]): Promise<LotHead[]> {
  const { store } = lab;
  const [claims, suppliers, resistances] = await Promise.all([
    loadClaims(lab, lots),
    store.suppliers.find({ id: [...new Set(lots.map(({ supplierId }) => supplierId))] }),
    store.verdicts.resistanceCounts(lots.map(({ id }) => id)),
  ]);
  const strokesByLot = await strokesOf(lab, claims);
  const supplierOf = new Map(suppliers.map((supplier) => [supplier.id, supplier]));
  const countOf = new Map(resistances.map(({ lotId, count }) => [lotId, count]));
  return lots.map((lot) => {
    const { model, profile, items: claimItems, claim } = claims.get(lot.id)!;
    const strokes = strokesByLot.get(lot.id)!;
    return {
      lot,
      supplier: found(supplierOf.get(lot.supplierId) ?? null, 'The supplier'),
      model,
      profile,
      claimItems,
      claim,
      strokes,
      tested: strokes.filter(({ mark }) => mark !== 'untested').length,
      resistances: countOf.get(lot.id) ?? 0,
    };
  });
}

/** The head of one lot. */
export const headOf = async (lab: Lab, lot: LotRow): Promise<LotHead> =>
  (await headsOf(lab, [lot]))[0]!;

/** The head every page of a lot carries. */
export const lotHead = question({
  role: 'technician',
  input: z.object({ code: z.string().max(20) }),
  run: async (lab, { code }) =>
    headOf(lab, found(await lab.store.lots.one({ code }), `Lot ${code}`)),
});

export type LotListRow = LotHead & { arrival: ArrivalView };

/** All lots, newest first, each with its strip and where its arrival stands. */
export const lotList = question({
  role: 'technician',
  input: z.object({}),
  run: async (lab): Promise<LotListRow[]> => {
    const lots = await lab.store.lots.find({}, { order: [['id', 'DESC']] });
    const [heads, arrivals] = await Promise.all([headsOf(lab, lots), arrivalsOf(lab, lots)]);
    return heads.map((head) => ({ ...head, arrival: arrivals.get(head.lot.id)! }));
  },
});

const asVerdict = (state: ItemStateName | undefined): Verdict | null =>
  state === 'met' || state === 'notMet' || state === 'tooClose' ? state : null;

/** Whether what was measured stands at the claim’s conditions; null where nothing is measured. */
function comparableOf(capacity: AssessmentRow | undefined): boolean | null {
  if (!capacity || capacity.value === null) return null;
  return capacity.state !== 'notComparable';
}

const SPEAKS_AGAINST: ReadonlySet<ItemStateName> = new Set(['notMet', 'contradicted']);
const IN_COLUMNS: ReadonlySet<ClaimKind> = new Set(['capacity', 'acResistance']);

function lineOf(
  cell: CellRow,
  standing: StandingRow | undefined,
  items: readonly AssessmentRow[],
  life: LifeState,
): CellLine {
  const capacity = items.find(({ item }) => item === 'capacity');
  const ac = items.find(({ item }) => item === 'acResistance');
  return {
    id: cell.id,
    number: cell.number,
    label: cell.label,
    life,
    capacityAh: capacity?.value ?? null,
    capacityU: expandedUncertainty({ standardUncertainty: capacity?.standardUncertainty ?? null }),
    bound: capacity?.bound ?? null,
    capacityRawAh: standing?.capacityRawAh ?? null,
    capacityRawFigureId: standing?.capacityRawFigureId ?? null,
    corrections: capacity?.detail.corrections ?? [],
    held: capacity?.state === 'held' ? (capacity.detail.why[0] ?? null) : null,
    holds: standing?.detail.holds ?? [],
    comparable: comparableOf(capacity),
    verdict: asVerdict(capacity?.state),
    probability: capacity?.probability ?? null,
    acMohm: ac?.value ?? null,
    acU: expandedUncertainty({ standardUncertainty: ac?.standardUncertainty ?? null }),
    acBound: ac?.bound ?? null,
    acVerdict: asVerdict(ac?.state),
    against: items.flatMap(({ item, state }) =>
      SPEAKS_AGAINST.has(state) && !IN_COLUMNS.has(item) ? [item] : [],
    ),
    ocvV: standing?.ocvV ?? null,
    stateOfHealth: standing?.stateOfHealth ?? null,
    grade: standing?.grade ?? null,
    reasons: standing?.detail.reasons ?? [],
    waitingFor: standing?.detail.waitingFor ?? [],
    differences: capacity?.detail.differences ?? [],
    capacityFigureId: capacity?.figureId ?? null,
    acFigureId: ac?.figureId ?? null,
  };
}

/** What a line shows of a standing; what it is graded by stays where it is. */
const STANDING_COLUMNS: (keyof StandingRow)[] = [
  'cellId',
  'capacityRawFigureId',
  'capacityRawAh',
  'ocvV',
  'stateOfHealth',
  'grade',
  'detail',
];

/** Every cell of a lot with where it stands. */
export async function cellLines(lab: Lab, lotId: number): Promise<CellLine[]> {
  const { standings, assessments } = lab.store.verdicts;
  const [cells, stood, inColumns, speaking, lives] = await Promise.all([
    lab.store.cells.find({ lotId }, { order: [['position', 'ASC']] }),
    standings.find({ lotId }, { columns: STANDING_COLUMNS }),
    assessments.find({ lotId, item: [...IN_COLUMNS] }),
    // Of all other items only what speaks against a cell is shown in its line.
    assessments.find(
      { lotId, state: [...SPEAKS_AGAINST], item: { noneOf: [...IN_COLUMNS] } },
      { columns: ['cellId', 'item', 'state'] },
    ),
    lifeStates(lab, lotId),
  ]);
  const standingOf = new Map(stood.map((standing) => [standing.cellId, standing]));
  const itemsOf = new Map<number, AssessmentRow[]>();
  for (const row of [...inColumns, ...speaking]) {
    const own = itemsOf.get(row.cellId);
    if (own) own.push(row);
    else itemsOf.set(row.cellId, [row]);
  }
  return cells.map((cell) =>
    lineOf(
      cell,
      standingOf.get(cell.id),
      itemsOf.get(cell.id) ?? [],
      lives.get(cell.id) ?? 'arrived',
    ),
  );
}

export const lotCells = question({
  role: 'technician',
  input: z.object({ lotId: z.int() }),
  run: (lab, { lotId }) => cellLines(lab, lotId),
});
