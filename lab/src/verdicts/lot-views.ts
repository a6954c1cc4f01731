import type { Correction } from '@dusk-tally/core/evidence';
import type { ChemistryProfile } from '@dusk-tally/core/chemistry';
import {
  type CellResult,
  type ItemSummary,
  type HoldRule,
  lotSentence,
  summariseItem,
} from '@dusk-tally/core/verdicts';
import {
  type CellArrivalRow,
  type CellModelRow,
  type ClaimItemRow,
  type HeldResult,
  type LotRow,
  Op,
  type StandingRow,
  type SupplierRow,
} from '@dusk-tally/store';
import { z } from 'zod';
import { type ArrivalView, arrivalOf } from '../arrivals/arrival-view';
import { type EffectiveClaim, loadClaim } from '../arrivals/claims';
import { found, type Lab, question } from '../shared';

/** One stroke of the tally strip. */
export interface Stroke {
  number: string;
  /** Capacity over claim; null before a test. */
  share: number | null;
  mark:
    'untested' | 'met' | 'notMet' | 'tooClose' | 'atLeast' | 'notComparable' | 'noClaim' | 'held';
  /** What its arrival found; null where nothing was, or before. */
  sign: 'stop' | 'discard' | 'serious' | 'lead' | 'recovering' | 'note' | null;
}

type SlimArrival = Pick<CellArrivalRow, 'cellId' | 'gate' | 'worst'>;

/** The sign a stroke carries for what its arrival found, worst first. */
function signOf(arrival: SlimArrival | undefined): Stroke['sign'] {
  if (!arrival) return null;
  const byGate = {
    quarantined: 'stop',
    discard: 'discard',
    blocked: 'serious',
    waitsForLead: 'lead',
    recovering: 'recovering',
  } as const;
  if (arrival.gate in byGate) return byGate[arrival.gate as keyof typeof byGate];
  return arrival.worst === 'note' ? 'note' : null;
}

/** A cell as the lot's tables show it. */
export interface CellLine {
  id: number;
  number: string;
  label: string | null;
  capacityAh: number | null;
  capacityU: number | null;
  bound: string | null;
  /** As measured, before anything was carried to the claim’s conditions. */
  capacityRawAh: number | null;
  capacityRawFigureId: number | null;
  corrections: Correction[];
  /** Why nothing measured of it counts; null where something does. */
  held: string | null;
  /** All its results that are held. */
  holds: HeldResult[];
  comparable: boolean | null;
  verdict: StandingRow['capacityVerdict'];
  probability: number | null;
  acMohm: number | null;
  acU: number | null;
  acBound: string | null;
  acVerdict: StandingRow['acVerdict'];
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

type SlimStanding = Pick<
  StandingRow,
  'cellId' | 'capacityAh' | 'capacityBound' | 'comparable' | 'capacityVerdict' | 'held'
>;

function markOf(standing: SlimStanding | undefined, hasClaim: boolean): Stroke['mark'] {
  if (!standing || standing.capacityAh === null) return 'untested';
  if (standing.held) return 'held';
  if (standing.comparable === false) return 'notComparable';
  if (!hasClaim || !standing.capacityVerdict) return 'noClaim';
  return standing.capacityBound === 'atLeast' && standing.capacityVerdict !== 'met'
    ? 'atLeast'
    : standing.capacityVerdict;
}

/** Strokes of a lot, in the order of its cells. */
export async function strokesOf(
  lab: Lab,
  lotId: number,
  claimedAh: number | null,
): Promise<Stroke[]> {
  const [cells, arrivals, standings] = await Promise.all([
    lab.store.cells.find({ lotId }, { order: [['position', 'ASC']], columns: ['id', 'number'] }),
    lab.store.arrivals.cells.find({ lotId }, { columns: ['cellId', 'gate', 'worst'] }),
    lab.store.standings.find(
      { lotId },
      {
        columns: ['cellId', 'capacityAh', 'capacityBound', 'comparable', 'capacityVerdict', 'held'],
      },
    ),
  ]);
  const byCell = new Map(standings.map((standing) => [standing.cellId, standing]));
  const arrivalOf = new Map(arrivals.map((arrival) => [arrival.cellId, arrival]));
  return cells.map((cell) => {
    const standing = byCell.get(cell.id);
    const sign = signOf(arrivalOf.get(cell.id));
    const share = standing?.capacityAh && claimedAh ? standing.capacityAh / claimedAh : null;
    return { number: cell.number, share, mark: markOf(standing, claimedAh !== null), sign };
  });
}

/** What every page and row of a lot starts from. */
export async function headOf(lab: Lab, lot: LotRow): Promise<LotHead> {
  const { store } = lab;
  const [supplier, { model, profile, items: claimItems, claim }] = await Promise.all([
    store.suppliers.one({ id: lot.supplierId }),
    loadClaim(lab, lot.id),
  ]);
  const strokes = await strokesOf(lab, lot.id, claim.capacityAh?.value ?? null);
  const counts = await store.standings.count({ lotId: lot.id, acMohm: { [Op.ne]: null } });
  return {
    lot,
    supplier: found(supplier, 'The supplier'),
    model,
    profile,
    claimItems,
    claim,
    strokes,
    tested: strokes.filter((s) => s.mark !== 'untested').length,
    resistances: counts,
  };
}

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
    return Promise.all(
      lots.map(async (lot) => ({
        ...(await headOf(lab, lot)),
        arrival: await arrivalOf(lab, lot.id),
      })),
    );
  },
});

/** Every cell of a lot with where it stands. */
export async function cellLines(lab: Lab, lotId: number): Promise<CellLine[]> {
  const [cells, standings] = await Promise.all([
    lab.store.cells.find({ lotId }, { order: [['position', 'ASC']] }),
    lab.store.standings.find({ lotId }),
  ]);
  const byCell = new Map(standings.map((standing) => [standing.cellId, standing]));
  return cells.map((cell) => {
    const s = byCell.get(cell.id);
    return {
      id: cell.id,
      number: cell.number,
      label: cell.label,
      capacityAh: s?.capacityAh ?? null,
      capacityU: s?.capacityU ?? null,
      bound: s?.capacityBound ?? null,
      capacityRawAh: s?.capacityRawAh ?? null,
      capacityRawFigureId: s?.capacityRawFigureId ?? null,
      corrections: s?.detail.corrections ?? [],
      held: s?.held ?? null,
      holds: s?.detail.holds ?? [],
      comparable: s?.comparable ?? null,
      verdict: s?.capacityVerdict ?? null,
      probability: s?.capacityProbability ?? null,
      acMohm: s?.acMohm ?? null,
      acU: s?.acU ?? null,
      acBound: s?.detail.acBound ?? null,
      acVerdict: s?.acVerdict ?? null,
      ocvV: s?.ocvV ?? null,
      stateOfHealth: s?.stateOfHealth ?? null,
      grade: s?.grade ?? null,
      reasons: s?.detail.reasons ?? [],
      waitingFor: s?.detail.waitingFor ?? [],
      differences: s?.detail.differences ?? [],
      capacityFigureId: s?.capacityFigureId ?? null,
      acFigureId: s?.acFigureId ?? null,
    };
  });
}

export const lotCells = question({
  role: 'technician',
  input: z.object({ lotId: z.int() }),
  run: (lab, { lotId }) => cellLines(lab, lotId),
});

export interface LotVerdict {
  sentence: string;
  capacity: (Omit<ItemSummary, 'judgements'> & { limit: number }) | null;
  acResistance: (Omit<ItemSummary, 'judgements'> & { limit: number }) | null;
  grades: { name: string; count: number }[];
  waiting: number;
  /** Results that are held, by rule, most first; every result of a cell counts. */
  holds: { rule: HoldRule; count: number; cells: string[] }[];
  guardFactor: number;
}

const withoutJudgements = ({
  judgements: _judgements,
  ...rest
}: ItemSummary): Omit<ItemSummary, 'judgements'> => rest;

function holdCounts(lines: readonly CellLine[]): LotVerdict['holds'] {
  const byRule = new Map<HoldRule, { count: number; cells: Set<string> }>();
  for (const { number, holds } of lines)
    for (const { rule } of holds) {
      const own = byRule.get(rule) ?? { count: 0, cells: new Set<string>() };
      own.count++;
      own.cells.add(number);
      byRule.set(rule, own);
    }
  return [...byRule]
    .map(([rule, { count, cells }]) => ({ rule, count, cells: [...cells] }))
    .sort((a, b) => b.count - a.count);
}

/** The lot against its claim: sentence, statistics per item, grades. */
export async function verdictOfLot(
  lab: Lab,
  head: Pick<LotHead, 'lot' | 'claim'>,
  lines: CellLine[],
): Promise<LotVerdict> {
  const { claim } = head;
  const settings = found(await lab.store.settings.one({ id: 1 }), 'The lab’s settings');
  // How far one run of a cell scatters about another, where repeats tell.
  const effects = await lab.store.meters.effects.find({});
  const repeatability = effects.flatMap(({ effect }) => effect?.repeatability ?? []);
  const scatter = repeatability.length > 0 ? Math.max(...repeatability) : null;
  const results = (
    pick: (line: CellLine) => {
      value: number | null;
      U: number | null;
      bound?: string | null;
      comparable?: boolean | null;
      held?: string | null;
    },
  ): CellResult[] =>
    lines.flatMap((line) => {
      const { value, U, bound, comparable, held } = pick(line);
      if (value === null) return [];
      return [
        {
          cell: line.number,
          value,
          standardUncertainty: U === null ? null : U / 2,
          bound: bound === 'atLeast' || bound === 'atMost' ? bound : 'exact',
          comparable: comparable !== false,
          held: Boolean(held),
          ...(scatter === null || comparable === undefined
            ? {}
            : { scatter: scatter * Math.abs(value) }),
        },
      ];
    });
  const rated = claim.capacityAh?.value ?? null;
  const claimedAc = claim.acResistanceMohm?.value ?? null;
  const capacity = rated
    ? summariseItem(
        results((l) => ({
          value: l.capacityAh,
          U: l.capacityU,
          bound: l.bound,
          comparable: l.comparable,
          held: l.held,
        })),
        { value: rated, direction: 'atLeast' },
        settings.guardFactor,
      )
    : null;
  const resistance = claimedAc
    ? summariseItem(
        results((l) => ({ value: l.acMohm, U: l.acU, bound: l.acBound })),
        { value: claimedAc, direction: 'atMost' },
        settings.guardFactor,
      )
    : null;
  const grades = new Map<string, number>();
  for (const line of lines)
    if (line.grade) grades.set(line.grade, (grades.get(line.grade) ?? 0) + 1);
  return {
    sentence: lotSentence(lines.length, capacity, resistance, claim.plausibility?.possible ?? null),
    capacity: capacity && rated ? { ...withoutJudgements(capacity), limit: rated } : null,
    acResistance:
      resistance && claimedAc ? { ...withoutJudgements(resistance), limit: claimedAc } : null,
    grades: [...grades].map(([name, count]) => ({ name, count })),
    waiting: lines.filter((line) => !line.grade).length,
    holds: holdCounts(lines),
    guardFactor: settings.guardFactor,
  };
}

export const lotVerdict = question({
  role: 'technician',
  input: z.object({ code: z.string().max(20) }),
  run: async (lab, { code }) => {
    const head = await headOf(lab, found(await lab.store.lots.one({ code }), `Lot ${code}`));
    return verdictOfLot(lab, head, await cellLines(lab, head.lot.id));
  },
});
