import {
  type BookedCell,
  type Cents,
  centsOf,
  type CostPart,
  GOOD_LINE,
  landedCost,
  type LotOutlay,
  type Remedies,
  remediesOf,
  type Shortfall,
  shortfallOf,
  splitCents,
  unitCosts,
  type UnitCosts,
} from '@dusk-tally/core/money';
import type { GradeScheme } from '@dusk-tally/core/verdicts';
import type { LotBooksRow, LotRow } from '@dusk-tally/store';
import { z } from 'zod';
import { loadClaim } from '../lots';
import { type Lab, question } from '../shared';
import { type CellLine, cellLines, schemeFor, standingFigures } from '../verdicts';

/** What is kept of a lot’s money, before anybody said anything. */
const UNTOLD: Omit<LotBooksRow, 'id' | 'lotId' | 'personId' | 'at'> = {
  minutes: 0,
  centsPerMinute: 0,
  line: GOOD_LINE,
  gradePrices: {},
  refundCents: null,
  returnFreightCents: 0,
  packingMinutes: 0,
  partialRefundCents: 0,
  replacementCents: null,
  asksTesting: false,
  version: 0,
};

/** A cell in the books. */
export interface BookLine {
  cellId: number;
  number: string;
  grade: string | null;
  capacityAh: number | null;
  stateOfHealth: number | null;
  wh: number | null;
  /** Its share of the landed cost, all shares adding up to it. */
  costCents: Cents;
  /** What its grade brings; null without a grade or a price. */
  bringsCents: Cents | null;
}

/** What the cells of a grade bring together. */
export interface GradeValue {
  grade: string;
  cells: number;
  priceCents: Cents | null;
  cents: Cents;
}

/** The books of a lot. */
export interface LotBooks {
  currency: string;
  kept: typeof UNTOLD;
  /** False where the order names no price: then nothing below says what it cost. */
  hasPrice: boolean;
  parts: CostPart[];
  totalCents: Cents;
  units: UnitCosts;
  /** Cells whose energy was measured, and those it is charge times nominal voltage of. */
  energy: { measured: number; computed: number; nominalV: number };
  /** Results that are held, and in no figure here. */
  held: string[];
  values: GradeValue[];
  /** Cells without a grade yet: they count as bringing nothing, so that keeping leaves at least what is told. */
  ungraded: number;
  /** Together; null as long as a grade that occurs has no price. */
  resaleCents: Cents | null;
  /** Null, too, where the order names no price. */
  marginCents: Cents | null;
  centsPerClaimedAh: number | null;
  shortfall: Shortfall | null;
  /** Null where what keeping brings, or what returning pays, is not known. */
  remedies: Remedies | null;
  lines: BookLine[];
}

const outlayOf = (lot: LotRow, kept: typeof UNTOLD): LotOutlay => {
  const cents = (text: string | null) => (text === null ? 0 : centsOf(text));
  return {
    priceCents: cents(lot.price),
    discountCents: cents(lot.discount),
    freightCents: cents(lot.freight),
    dutyCents: cents(lot.duty),
    feesCents: cents(lot.fees),
    minutes: kept.minutes,
    centsPerMinute: kept.centsPerMinute,
  };
};

/** Energy of each tested cell, Wh: of the run its capacity counts from, else its charge times nominal voltage. */
async function energies(
  lab: Lab,
  lotId: number,
  lines: readonly CellLine[],
  nominalV: number,
): Promise<Map<number, { wh: number; isMeasured: boolean }>> {
  const figures = await lab.store.transaction((transaction) =>
    standingFigures(lab, lotId, null, transaction),
  );
  const runOf = new Map(figures.map(({ id, runId }) => [id, runId]));
  const energyOf = new Map(
    figures.flatMap(({ quantity, runId, value }) =>
      quantity === 'energy' && runId !== null ? [[runId, value] as const] : [],
    ),
  );
  return new Map(
    lines.flatMap((line) => {
      if (line.capacityAh === null || line.held !== null) return [];
      const runId = runOf.get(line.capacityFigureId ?? -1) ?? null;
      const measured = runId === null ? undefined : energyOf.get(runId);
      const wh = measured ?? line.capacityAh * nominalV;
      return [[line.id, { wh, isMeasured: measured !== undefined }] as const];
    }),
  );
}

/** Why the cells may not be sent back as they are; null where nothing speaks against it. */
async function mayNotShip(lab: Lab, lines: readonly CellLine[]): Promise<string | null> {
  const arrivals = await lab.store.arrivals.cells.find(
    { cellId: lines.map(({ id }) => id), worst: 'stop' },
    { columns: ['cellId'] },
  );
  if (arrivals.length === 0) return null;
  const bad = new Set(arrivals.map(({ cellId }) => cellId));
  const named = lines.filter(({ id }) => bad.has(id)).map(({ number }) => number);
  const words =
    named.length > 3
      ? `${named.slice(0, 3).join(', ')} and ${named.length - 3} more`
      : named.join(', ');
  return `${words}: damaged or dangerous by the inspection. Such cells may not be sent as ordinary goods; leave it to who is licensed for it.`;
}

/** What the cells bring by their grades. */
function valuesOf(
  { grades }: GradeScheme,
  lines: readonly CellLine[],
  prices: Readonly<Record<string, Cents>>,
): GradeValue[] {
  return grades.map(({ name }) => {
    const cells = lines.filter(({ grade }) => grade === name).length;
    const priceCents = prices[name] ?? null;
    return { grade: name, cells, priceCents, cents: cells * (priceCents ?? 0) };
  });
}

/** What the cells lack against their claim: of held results and lower bounds nothing is said. */
const lacking = (lines: readonly CellLine[], claimAh: number, centsPerAh: number): Shortfall =>
  shortfallOf(
    lines.flatMap(({ capacityAh, capacityU, verdict, held, bound }) =>
      capacityAh === null || held !== null || bound !== 'exact'
        ? []
        : [{ capacityAh, U: capacityU, isShort: verdict === 'notMet' }],
    ),
    claimAh,
    centsPerAh,
  );

const lineOf = (
  { id, number, grade, held, capacityAh }: CellLine,
  { stateOfHealth, wh }: BookedCell,
  costCents: Cents,
  prices: Readonly<Record<string, Cents>>,
): BookLine => ({
  cellId: id,
  number,
  grade,
  capacityAh: held === null ? capacityAh : null,
  stateOfHealth,
  wh,
  costCents,
  bringsCents: grade === null ? null : (prices[grade] ?? null),
});

/** The books of a lot: what it cost, what its cells bring, what it lacks, and the ways out. */
export const lotBooks = question({
  role: 'technician',
  input: z.object({ lotId: z.int() }),
  run: async (lab, { lotId }): Promise<LotBooks> => {
    const [{ lot, model, profile, claim }, row, lines] = await Promise.all([
      loadClaim(lab, lotId),
      lab.store.books.one({ lotId }),
      cellLines(lab, lotId),
    ]);
    const kept = row ?? UNTOLD;
    const outlay = outlayOf(lot, kept);
    const { parts, totalCents } = landedCost(outlay);
    const energy = await energies(lab, lotId, lines, profile.nominalV);
    const booked = lines.map((line) => ({
      wh: energy.get(line.id)?.wh ?? null,
      stateOfHealth: line.held === null ? line.stateOfHealth : null,
    }));
    const values = valuesOf(await schemeFor(lab, model), lines, kept.gradePrices);
    const isPriced = values.every(({ cells, priceCents }) => cells === 0 || priceCents !== null);
    const resaleCents = isPriced ? values.reduce((sum, { cents }) => sum + cents, 0) : null;
    const claimAh = claim.capacityAh?.value ?? null;
    const paidCents = outlay.priceCents - outlay.discountCents;
    // Of packs the order counts packs, not their cells.
    const ordered = lot.takenAs === 'cells' ? lot.orderedQuantity : null;
    const count = ordered || lines.length;
    const centsPerClaimedAh =
      claimAh !== null && count > 0 && lot.price !== null ? paidCents / (count * claimAh) : null;
    const shortfall =
      claimAh === null || centsPerClaimedAh === null
        ? null
        : lacking(lines, claimAh, centsPerClaimedAh);
    const ownCents = parts.find(({ name }) => name === 'own time')!.cents;
    const costs =
      lines.length > 0
        ? splitCents(
            totalCents,
            lines.map(() => 1),
          )
        : [];
    return {
      currency: lot.currency,
      kept,
      hasPrice: lot.price !== null,
      parts,
      totalCents,
      units: unitCosts(totalCents, booked, kept.line),
      energy: {
        measured: [...energy.values()].filter(({ isMeasured }) => isMeasured).length,
        computed: [...energy.values()].filter(({ isMeasured }) => !isMeasured).length,
        nominalV: profile.nominalV,
      },
      held: lines.filter(({ held }) => held !== null).map(({ number }) => number),
      values,
      ungraded: lines.filter(({ grade }) => grade === null).length,
      resaleCents,
      marginCents: resaleCents === null || lot.price === null ? null : resaleCents - totalCents,
      centsPerClaimedAh,
      shortfall,
      remedies:
        resaleCents === null || (lot.price === null && kept.refundCents === null)
          ? null
          : remediesOf({
              resaleCents,
              refundCents: kept.refundCents ?? paidCents,
              returnFreightCents: kept.returnFreightCents,
              packingMinutes: kept.packingMinutes,
              centsPerMinute: kept.centsPerMinute,
              partialRefundCents: kept.partialRefundCents,
              replacementCents: kept.replacementCents,
              mayNotShip: await mayNotShip(lab, lines),
              shortfallCents: shortfall?.cents ?? 0,
              testingCents: kept.asksTesting ? ownCents : null,
            }),
      lines: lines.map((line, i) => lineOf(line, booked[i]!, costs[i]!, kept.gradePrices)),
    };
  },
});
