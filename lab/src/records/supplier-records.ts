import type { Cents } from '@dusk-tally/core/money';
import { mean, median, standardDeviation } from '@dusk-tally/core/statistics';
import {
  expectedYield,
  type ExpectedYield,
  type Prior,
  rankedSuppliers,
  type SupplierShare,
  supplierShares,
} from '@dusk-tally/core/suppliers';
import type { SupplierNoteRow, SupplierRow } from '@dusk-tally/store';
import { z } from 'zod';
import { found, type Lab, question } from '../shared';
import { centsPerGoodKwh, type LotRecord, lotRecords, yieldOf } from './lot-records';

/** A note as it is shown. */
export interface NoteView {
  id: number;
  isHearsay: boolean;
  text: string;
  source: string | null;
  who: string;
  at: Date;
}

/** What the lots of a supplier came to. */
export interface SupplierRecord {
  id: number;
  name: string;
  place: string | null;
  notes: string | null;
  version: number;
  /** Share of claims met; null before anybody’s lot was judged. */
  share: SupplierShare | null;
  /** Names of those it cannot be told apart from. */
  alikeTo: string[];
  perModel: { model: string; share: SupplierShare }[];
  lots: LotRecord[];
  cells: number;
  /** Mean over its lots of capacity over claim, less 1, and how the lots spread. */
  margin: { mean: number; spread: number | null; lots: number } | null;
  dead: { count: number; of: number } | null;
  copies: { count: number; of: number } | null;
  ageMonths: number | null;
  daysToDeliver: { mean: number; lots: number } | null;
  /** What a kWh in good cells cost over its lots together, cents; null where nothing is known. */
  centsPerGoodKwh: number | null;
  expected: ExpectedYield | null;
  said: NoteView[];
}

/** All suppliers beside each other, the best first. */
export interface SupplierRecords {
  suppliers: SupplierRecord[];
  prior: Prior | null;
  alike: number;
  isEstimated: boolean;
  currency: string;
  targetCentsPerKwh: Cents | null;
}

const known = <T>(values: readonly (T | null)[]): T[] => values.flatMap((one) => one ?? []);

/** Cells of a kind among those of the lots that tell of them. */
function counted(lots: readonly LotRecord[], of: (lot: LotRecord) => number | null) {
  const telling = lots.filter((lot) => of(lot) !== null);
  if (telling.length === 0) return null;
  return {
    count: telling.reduce((sum, lot) => sum + of(lot)!, 0),
    of: telling.reduce((sum, { cells }) => sum + cells, 0),
  };
}

/** What a good kWh cost over all lots of which both are known. */
function costOver(lots: readonly LotRecord[]): number | null {
  const told = lots.filter((lot) => centsPerGoodKwh(lot) !== null);
  if (told.length === 0) return null;
  const sum = (of: (lot: LotRecord) => number) => told.reduce((all, lot) => all + of(lot), 0);
  return sum(({ landedCents }) => landedCents!) / sum(({ goodKwh }) => goodKwh!);
}

function marginOver(lots: readonly LotRecord[]): SupplierRecord['margin'] {
  const margins = known(lots.map(({ margin }) => margin));
  if (margins.length === 0) return null;
  return {
    mean: mean(margins),
    spread: margins.length > 1 ? standardDeviation(margins) : null,
    lots: margins.length,
  };
}

function recordOf(
  supplier: SupplierRow,
  lots: readonly LotRecord[],
  allYields: readonly number[],
): Omit<SupplierRecord, 'share' | 'alikeTo' | 'perModel' | 'said'> {
  const ages = known(lots.map(({ ageMonths }) => ageMonths));
  const days = known(lots.map(({ daysToDeliver }) => daysToDeliver));
  return {
    id: supplier.id,
    name: supplier.name,
    place: supplier.place,
    notes: supplier.notes,
    version: supplier.version,
    lots: [...lots].sort((a, b) => (b.arrivedOn ?? '9').localeCompare(a.arrivedOn ?? '9')),
    cells: lots.reduce((sum, { cells }) => sum + cells, 0),
    margin: marginOver(lots),
    dead: counted(lots, ({ dead }) => dead),
    copies: counted(lots, ({ copies }) => copies),
    ageMonths: ages.length > 0 ? median(ages) : null,
    daysToDeliver: days.length > 0 ? { mean: mean(days), lots: days.length } : null,
    centsPerGoodKwh: costOver(lots),
    expected: expectedYield(known(lots.map(yieldOf)), allYields),
  };
}

/** Shares of each model of each supplier, drawn toward the mean of all such pairs. */
function modelShares(
  lots: readonly LotRecord[],
): { supplierId: number; model: string; share: SupplierShare }[] {
  const pairs = new Map<string, LotRecord[]>();
  for (const lot of lots) {
    const key = JSON.stringify([lot.supplierId, lot.model]);
    pairs.set(key, [...(pairs.get(key) ?? []), lot]);
  }
  const groups = [...pairs.values()].filter((own) => own.some(({ judged }) => judged > 0));
  const { shares } = supplierShares(groups);
  return groups.map((own, i) => ({
    supplierId: own[0]!.supplierId,
    model: own[0]!.model,
    share: shares[i]!,
  }));
}

/** Lots that count: those called off before anything was known of them do not. */
const counts = ({ calledOff, judged, tested }: LotRecord): boolean =>
  calledOff === null || judged + tested > 0;

/** Everything suppliers are known by; what the offer check builds on, too. */
export async function recordsOfSuppliers(lab: Lab): Promise<SupplierRecords> {
  const { store } = lab;
  const [suppliers, all, settings, notes, people] = await Promise.all([
    store.suppliers.find({ mergedInto: null }, { order: [['name', 'ASC']] }),
    lotRecords(lab),
    store.settings.one({ id: 1 }),
    store.supplying.notes.find({ takenBackAt: null }, { order: [['id', 'DESC']] }),
    store.people.find({}, { columns: ['id', 'name'] }),
  ]);
  const { currency, targetCentsPerKwh } = found(settings, 'The lab’s settings');
  const lots = all.filter(counts);
  const lotsOf = suppliers.map(({ id }) => lots.filter(({ supplierId }) => supplierId === id));
  const { shares, prior, alike, isEstimated } = supplierShares(lotsOf);
  const perModel = modelShares(lots);
  const yields = known(lots.map(yieldOf));
  const nameOf = new Map(people.map(({ id, name }) => [id, name]));
  const view = ({ id, isHearsay, text, source, personId, at }: SupplierNoteRow): NoteView => ({
    id,
    isHearsay,
    text,
    source,
    who: nameOf.get(personId) ?? '',
    at,
  });
  const judged = shares.map((share) => (share && share.judged > 0 ? share : null));
  const ranked = rankedSuppliers(judged);
  const order = [
    ...ranked.map(({ index }) => index),
    ...suppliers.flatMap((_, i) => (judged[i] ? [] : [i])),
  ];
  const alikeOf = new Map(ranked.map(({ index, alikeTo }) => [index, alikeTo]));
  return {
    prior,
    alike,
    isEstimated,
    currency,
    targetCentsPerKwh,
    suppliers: order.map((i): SupplierRecord => {
      const supplier = suppliers[i]!;
      return {
        ...recordOf(supplier, lotsOf[i]!, yields),
        share: shares[i] ?? null,
        alikeTo: (alikeOf.get(i) ?? []).map((other) => suppliers[other]!.name),
        perModel: perModel.filter(({ supplierId }) => supplierId === supplier.id),
        said: notes.filter(({ supplierId }) => supplierId === supplier.id).map(view),
      };
    }),
  };
}

/** The record of every supplier, the best first; who overlaps cannot be told apart. */
export const supplierRecords = question({
  role: 'technician',
  input: z.object({}),
  run: (lab): Promise<SupplierRecords> => recordsOfSuppliers(lab),
});
