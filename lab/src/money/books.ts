import {
  type BookedCell,
  type Cents,
  centsOf,
  inHouseCents,
  landedCost,
  type LotOutlay,
  splitCents,
  testingCost,
  throughputCents,
  unitCosts,
  type UnitCosts,
} from '@dusk-tally/core/money';
import type { GradeScheme } from '@dusk-tally/core/verdicts';
import type { LotRow } from '@dusk-tally/store';
import { z } from 'zod';
import { type KeptBooks, loadClaim, UNTOLD } from '../lots';
import { found, type Lab, question } from '../shared';
import { type CellLine, cellLines, schemeFor, standingFigures } from '../verdicts';
import { againstSupplier, lackingOf, paidBefore } from './against-supplier';
import type { BookLine, GradeValue, LotBooks } from './lot-books';
import { typedBooks } from './typed-books';
import { benchUse, proposedMinutes } from './use-of-lot';

/** What a lot cost by the time it lay here, part by part. */
export const outlayOf = (
  lot: LotRow,
  kept: Pick<KeptBooks, 'minutes' | 'centsPerMinute'>,
): LotOutlay => {
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

const lineOf = (
  { id, number, grade, held, capacityAh, capacityU, bound }: CellLine,
  { stateOfHealth, wh }: BookedCell,
  costCents: Cents,
  prices: Readonly<Record<string, Cents>>,
): BookLine => ({
  cellId: id,
  number,
  grade,
  capacityAh: held === null ? capacityAh : null,
  capacityU: held === null ? capacityU : null,
  bound: held === null ? bound : null,
  stateOfHealth,
  wh,
  costCents,
  bringsCents: grade === null ? null : (prices[grade] ?? null),
});

/** Amounts of a lot in the house’s currency. */
function inHouse(
  { currency }: LotRow,
  house: string,
  { rate }: KeptBooks,
  totalCents: Cents,
  { perKwhGoodCents }: UnitCosts,
): LotBooks['inHouse'] {
  if (currency === house || rate === null) return null;
  return {
    currency: house,
    totalCents: inHouseCents(totalCents, rate),
    perKwhGoodCents: perKwhGoodCents === null ? null : inHouseCents(perKwhGoodCents, rate),
  };
}

/** What testing a lot took, and what that costs. */
async function testingOf(
  lab: Lab,
  lotId: number,
  { benchCentsPerHour, centsPerKwh }: KeptBooks,
  nominalV: number,
): Promise<LotBooks['testing']> {
  const use = await benchUse(lab, lotId, nominalV);
  return { ...testingCost({ ...use, benchCentsPerHour, centsPerKwh }), benchHours: use.benchHours };
}

/** The books of a lot: what it cost, what its cells bring, what it lacks, and the ways out. */
export const lotBooks = question({
  role: 'technician',
  input: z.object({ lotId: z.int() }),
  run: (lab, { lotId }): Promise<LotBooks> => booksOfLot(lab, lotId),
});

/** The books of a lot, for stages that build on them. */
export async function booksOfLot(lab: Lab, lotId: number): Promise<LotBooks> {
  const [{ lot, model, profile, claim }, row, lines, settings] = await Promise.all([
    loadClaim(lab, lotId),
    lab.store.books.one({ lotId }),
    cellLines(lab, lotId),
    lab.store.settings.one({ id: 1 }),
  ]);
  const house = found(settings, 'The lab’s settings').currency;
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
  const paidCents = outlay.priceCents - outlay.discountCents;
  const claimAh = claim.capacityAh?.value ?? null;
  const lacking = lackingOf(lot, lines, claimAh, paidCents);
  const ownCents = parts.find(({ name }) => name === 'own time')!.cents;
  const costs = lines.length > 0 ? splitCents(totalCents, Array(lines.length).fill(1)) : [];
  const units = unitCosts(totalCents, booked, kept.line);
  const testing = await testingOf(lab, lotId, kept, profile.nominalV);
  const marginCents = resaleCents === null || lot.price === null ? null : resaleCents - totalCents;
  return {
    currency: lot.currency,
    kept,
    typed: typedBooks(
      kept,
      values.map(({ grade }) => grade),
    ),
    hasPrice: lot.price !== null,
    parts,
    totalCents,
    units,
    energy: {
      measured: [...energy.values()].filter(({ isMeasured }) => isMeasured).length,
      computed: [...energy.values()].filter(({ isMeasured }) => !isMeasured).length,
      nominalV: profile.nominalV,
    },
    held: lines.filter(({ held }) => held !== null).map(({ number }) => number),
    values,
    ungraded: lines.filter(({ grade }) => grade === null).length,
    resaleCents,
    marginCents,
    testing,
    marginAfterTestingCents: marginCents === null ? null : marginCents - testing.totalCents,
    throughputCents:
      lot.price === null ? null : throughputCents(totalCents, units.kwhTested, kept.claimedCycles),
    proposedMinutes: await proposedMinutes(lab, lot),
    inHouse: inHouse(lot, house, kept, totalCents, units),
    houseCurrency: house,
    ...lacking,
    payback: await paidBefore(lab, lot.supplierId),
    ...(await againstSupplier(lab, lines, kept, {
      resaleCents,
      values,
      paidCents: lot.price === null ? null : paidCents,
      claimAh,
      lacking,
      ownCents,
    })),
    lines: lines.map((line, i) => lineOf(line, booked[i]!, costs[i]!, kept.gradePrices)),
  };
}
